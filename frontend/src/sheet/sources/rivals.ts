/** The people who are rivals in a test, and what they have made of it. */
import { answer, client } from "../../api/client";

export const rivalsPage = (activityId: string) => ({
  queryKey: ["rivals", activityId],
  queryFn: () =>
    answer(
      client.GET("/api/activities/{activity_id}/rivals", {
        params: { path: { activity_id: activityId } },
      }),
    ),
});
