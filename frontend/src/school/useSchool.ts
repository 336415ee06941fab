/** What the head of PE sets for the whole school. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/vue-query";
import { answer, client, type Schemas } from "../api/client";
import { useSession } from "../account/session";

type Settings = Schemas["SchoolSettings"];

export function useSchool() {
  return useQuery({ queryKey: ["school"], queryFn: () => answer(client.GET("/api/school")) });
}

/** Change a setting: the page shows what was kept, everything else is asked for anew. */
export function useSetting<Body>(put: (body: Body) => Promise<Settings>) {
  const queries = useQueryClient();
  const session = useSession();
  return useMutation({
    mutationFn: put,
    async onSuccess(kept) {
      queries.setQueryData(["school"], kept);
      await queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== "school" });
      session.take(await answer(client.GET("/api/session")));
    },
  });
}
