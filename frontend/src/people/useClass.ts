/** One class: its children, and the lessons it had. */
import { useQuery } from "@tanstack/vue-query";
import { answer, client } from "../api/client";

export function useClass(classId: string) {
  return useQuery({
    queryKey: ["class", classId],
    queryFn: () =>
      answer(client.GET("/api/classes/{class_id}", { params: { path: { class_id: classId } } })),
  });
}

export function useClassLessons(classId: string) {
  return useQuery({
    queryKey: ["class-lessons", classId],
    queryFn: () =>
      answer(
        client.GET("/api/classes/{class_id}/lessons", { params: { path: { class_id: classId } } }),
      ),
    staleTime: 0,
  });
}
