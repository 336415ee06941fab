/** The tests a lesson, a battery or a challenge can be made of. */
import { useQuery } from "@tanstack/vue-query";
import type { MaybeRef } from "vue";
import { answer, client } from "../api/client";

export function useTests(enabled: MaybeRef<boolean> = true) {
  return useQuery({
    queryKey: ["tests"],
    queryFn: () => answer(client.GET("/api/tests")),
    enabled,
  });
}
