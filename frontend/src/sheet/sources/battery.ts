/** A battery: every child's first try at each of its tests. */
import { tryOf } from "../../sync/lane";
import { useQuery, useQueryClient, type QueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, type Ref } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import { useSync } from "../../sync/useSync";
import { unlessTold } from "../../sync/live";
import type { Child, Source } from "../types";
import { attemptJob } from "./entry";
import { byPupil } from "./children";
import { putIn } from "./putIn";
import { inOtherTests } from "./together";
import { nowCounts, putInLanes, questionsOf, announcementOf, settleFlags, shownOf } from "./lanes";

type Grid = Schemas["BatteryGrid"];
/** A score changes the sums of its column: they are asked for a moment later. */
const SUMS_AFTER_MS = 500;

const keyOf = (lessonId: string, comparedWith?: string) => ["grid", lessonId, comparedWith ?? ""];
const read = (lessonId: string, comparedWith?: string) =>
  answer(
    client.GET("/api/lessons/{lesson_id}/grid", {
      params: {
        path: { lesson_id: lessonId },
        query: comparedWith ? { compared_with: comparedWith } : {},
      },
    }),
  );

/** Have the table of all tests on this device before it is opened. */
export function fetchBattery(queries: QueryClient, lessonId: string): Promise<void> {
  return queries.query({
    queryKey: keyOf(lessonId),
    queryFn: () => read(lessonId),
    staleTime: 60_000,
  });
}

export function useBattery(
  lessonId: string,
  /** The lesson's tests: whose a write is must be known before the grid is there. */
  activityIds: () => string[],
  comparedWith: Ref<string | undefined>,
  openRun: (activityId: string) => string | null,
) {
  const queries = useQueryClient();
  const sync = useSync();
  const key = computed(() => keyOf(lessonId, comparedWith.value));
  const query = useQuery({
    queryKey: key,
    queryFn: () => read(lessonId, comparedWith.value),
    placeholderData: (old) => old,
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(20_000)),
  });
  const grid = query.data;
  const sums = useDebounceFn(() => query.refetch(), SUMS_AFTER_MS);
  const columnOf = (at: string) =>
    grid.value?.tests.findIndex((one) => one.activity_id === at) ?? -1;
  const childOf = byPupil(() => grid.value?.children);

  const source: Source = {
    kept({ pupilId, at, slot }) {
      const cell = childOf(pupilId)?.cells[columnOf(at)];
      if (!cell || slot !== 1) return null;
      return {
        head: cell.head,
        stands: Boolean(cell.score),
        typed: cell.score?.typed ?? "",
        shown: cell.score ? shownOf(cell.score) : "",
        variant: cell.variant,
      };
    },
    job(place, entry) {
      const timed = grid.value?.tests[columnOf(place.at)]?.kind === "time";
      return attemptJob(place, entry, timed ? openRun(place.at) : null);
    },
    alsoFor({ pupilId, at }, { typed }) {
      const tests = grid.value?.tests ?? [];
      const cells = childOf(pupilId)?.cells;
      const here = tests.find((one) => one.activity_id === at);
      if (!cells || !here) return [];
      const others = tests.flatMap(({ activity_id, reasons, private: closed }, column) => {
        const cell = cells[column];
        if (activity_id === at || closed || !cell) return [];
        return [{ at: activity_id, reasons, variant: cell.variant, empty: !cell.score }];
      });
      return inOtherTests(pupilId, typed, here.reasons, others);
    },
    placeOf(job) {
      if (job.kind !== "attempt" || tryOf(job.body) !== 1) return null;
      if (!activityIds().includes(job.at)) return null;
      return { pupilId: job.body.pupil_id, at: job.at, slot: 1 };
    },
    take(job, answered) {
      const child = answered as Child;
      const { pupil_id, score, head } = child;
      // A reason said in its own sheet goes by what stands in the others.
      putInLanes(queries, job.at, child);
      putIn<Grid>(queries, key.value, (old) => inCell(old, pupil_id, job.at, { score, head }));
      // The sums are older than the entry: whoever opens the page next asks anew.
      void queries.invalidateQueries({ queryKey: key.value, refetchType: "none" });
      void sums();
    },
    name: (pupilId) => childOf(pupilId)?.name ?? "",
    announcementOf: (_job, child) => announcementOf(child as Child, 1),
    questionsOf: (job, child) => questionsOf(source.placeOf(job), child as Child),
    async settle(question) {
      const child = await settleFlags(question.entryId, question.flags);
      void sums();
      nowCounts(queries);
      return child ? announcementOf(child, 1) : "";
    },
  };
  return { query, grid, source };
}

function inCell(
  grid: Grid,
  pupilId: string,
  activityId: string,
  change: Partial<Schemas["GridCell"]>,
): Grid {
  const column = grid.tests.findIndex((one) => one.activity_id === activityId);
  const children = grid.children.map((one) => {
    if (one.pupil_id !== pupilId) return one;
    const cells = one.cells.map((cell, place) =>
      place === column ? { ...cell, ...change } : cell,
    );
    return { ...one, cells };
  });
  return { ...grid, children };
}
