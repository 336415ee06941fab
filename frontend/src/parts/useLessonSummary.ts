/** What a lesson found: sentences to read aloud, and one for the teacher. */
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";

export function useLessonSummary(lessonId: string) {
  return useQuery({
    queryKey: ["lesson-summary", lessonId],
    queryFn: () =>
      answer(
        client.GET("/api/lessons/{lesson_id}/found", {
          params: { path: { lesson_id: lessonId } },
        }),
      ),
    staleTime: 0, // scores may have come in a moment ago
  });
}
