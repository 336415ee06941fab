import { answer, client } from "../api/client";

/** Puts a child into a class: from another one, or back after it was marked as left. */
export function moveTo(class_id: string, pupil_id: string) {
  const params = { path: { pupil_id } };
  return answer(client.POST("/api/pupils/{pupil_id}/move", { params, body: { class_id } }));
}
