/** Where each kind of write goes: the page and the service worker send it the same way. */
import type { Client } from "openapi-fetch";
import type { paths } from "../api/schema";
import type { Job } from "./jobs";

type Paths = { path: Record<string, string> };

/** What the server said of a write, whatever kind it is of. */
interface Posted {
  data?: unknown;
  error?: unknown;
  response: Response;
}

/** Sends one write. */
export function post(client: Client<paths>, job: Job): Promise<Posted> {
  const activity = { path: { activity_id: job.at } };
  const lesson = { path: { lesson_id: job.at } };
  switch (job.kind) {
    case "attempt":
      return client.POST("/api/activities/{activity_id}/attempts", {
        params: activity,
        body: job.body,
      });
    case "pulse":
      return client.POST("/api/lessons/{lesson_id}/pulses", { params: lesson, body: job.body });
    case "helped":
      return client.POST("/api/help/activities/{activity_id}/attempts", {
        params: activity,
        body: job.body,
      });
    case "go":
      return client.POST("/api/mine/goes", { body: job.body });
    case "run": {
      const { id, ...body } = job.body;
      const params = { path: { activity_id: job.at, run_id: id } } satisfies Paths;
      return client.PUT("/api/activities/{activity_id}/runs/{run_id}", { params, body });
    }
    case "lesson":
      return client.POST("/api/lessons", { body: job.body });
    case "conduct":
      return client.PUT("/api/lessons/{lesson_id}/conduct", { params: lesson, body: job.body });
  }
}
