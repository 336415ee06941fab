/** The name of a class, for a page's head. */
import { useQuery } from "@tanstack/vue-query";
import { computed } from "vue";
import { answer, client } from "../api/client";

export function useClassName(classId: string) {
  const page = useQuery({
    queryKey: ["class", classId],
    queryFn: () =>
      answer(client.GET("/api/classes/{class_id}", { params: { path: { class_id: classId } } })),
  });
  return computed(() => page.data.value?.name ?? "");
}
