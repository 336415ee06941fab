/** What is missing and what needs a check in one test of a lesson. */
import { answer, client } from "../api/client";

export const checkPage = (activityId: string) => ({
  queryKey: ["check", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/check", {
        params: { path: { activity_id: activityId } },
      }),
    ),
});
