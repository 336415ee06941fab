/** The lane of a child's try, or of its pulse at a moment. */
export function laneOf(at: string, pupilId: string, slot: number): string {
  return `${at} ${pupilId} ${slot}`;
}

/** The lane of a child's own go: each is for itself. */
export const goLane = (id: string) => `go ${id}`;

/** The lane of a lesson that was begun here. */
export const lessonLane = (id: string) => `lesson ${id}`;

/** The lane of a clock: its states, and what waits for it. */
export const runLane = (id: string) => `run ${id}`;
/** The go an entry is of; one that an earlier page kept may not say. */
export function tryOf(body: { try_number?: number }): number {
  return body.try_number ?? 1;
}
