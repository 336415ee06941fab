/** The clocks of an activity as this device keeps them. */
import type { Run } from "./clock";

export function keyOf(activityId: string): string {
  return `lauf.clock.${activityId}`;
}

export function keptRuns(activityId: string): Run[] {
  try {
    return JSON.parse(localStorage.getItem(keyOf(activityId)) ?? "[]") as Run[];
  } catch {
    return [];
  }
}
