/** Every page on this device that shows a child's scores, kept to what the server answered last. */
import type { QueryClient } from "@tanstack/vue-query";
import type { Schemas } from "../../api/client";
import type { Board, Child } from "../types";
import { putIn } from "./putIn";

type Grid = Schemas["BatteryGrid"];

/** A class in one test. */
export const lanesKey = (activityId: string) => ["lanes", activityId];
/** All tests of a lesson, beside another sitting. */
export const gridKey = (lessonId: string, comparedWith?: string) => [
  "grid",
  lessonId,
  comparedWith ?? "",
];

/**
 * A child as the server answered, in the sheet of its test and in every table of all tests, shown
 * or not: one of them left behind would take the entry for somebody else's, or for none.
 */
export function putChild(queries: QueryClient, activityId: string, child: Child) {
  putIn<Board>(queries, lanesKey(activityId), (old) => withChild(old, child));
  for (const { queryKey, state } of queries.getQueryCache().findAll({ queryKey: ["grid"] })) {
    const grid = state.data as Grid | undefined;
    if (grid && columnOf(grid, activityId) < 0) continue;
    putIn<Grid>(queries, queryKey, (old) => inCell(old, activityId, child));
    // The sums are older than the entry: whoever opens the page next asks anew.
    void queries.invalidateQueries({ queryKey, exact: true, refetchType: "none" });
  }
}
export function columnOf(grid: Grid | undefined, activityId: string): number {
  return grid?.tests.findIndex((one) => one.activity_id === activityId) ?? -1;
}
/** The newer child in its row, all lanes on one scale. */
export function withChild(board: Board, child: Child): Board {
  const lanes = [child.lane, ...board.children.map((one) => one.lane)];
  const scale = Math.max(...lanes.map((lane) => lane.scale));
  const origin = Math.min(...lanes.map((lane) => lane.origin));
  const children = board.children.map((one) => {
    const newer = one.pupil_id === child.pupil_id ? child : one;
    const fits = newer.lane.scale === scale && newer.lane.origin === origin;
    return fits ? newer : { ...newer, lane: { ...newer.lane, scale, origin } };
  });
  return { ...board, children };
}
function inCell(grid: Grid, activityId: string, { pupil_id, score, head }: Child): Grid {
  const column = columnOf(grid, activityId);
  const children = grid.children.map((one) => {
    if (one.pupil_id !== pupil_id) return one;
    const cells = one.cells.map((cell, place) =>
      place === column ? { ...cell, score, head } : cell,
    );
    return { ...one, cells };
  });
  return { ...grid, children };
}
