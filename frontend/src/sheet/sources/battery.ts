/** A battery: every child's first try at each of its tests. */
import { tryOf } from "../../sync/lane";
import { useQuery, useQueryClient, type QueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, type Ref } from "vue";
import { answer, client } from "../../api/client";
import { useSync } from "../../sync/useSync";
import { unlessTold } from "../../sync/live";
import type { Child, Source } from "../types";
import { attemptJob } from "./entry";
import { byPupil } from "./children";
import { columnOf, gridKey, putChild } from "./pages";
import { inOtherTests } from "./together";
import { nowCounts, questionsOf, announcementOf, settleFlags, shownOf } from "./lanes";

/** A score changes the sums of its column: they are asked for a moment later. */
const SUMS_AFTER_MS = 500;

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
    queryKey: gridKey(lessonId),
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
  const key = computed(() => gridKey(lessonId, comparedWith.value));
  const query = useQuery({
    queryKey: key,
    queryFn: () => read(lessonId, comparedWith.value),
    placeholderData: (old) => old,
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(20_000)),
  });
  const grid = query.data;
  const sums = useDebounceFn(() => query.refetch(), SUMS_AFTER_MS);
  const childOf = byPupil(() => grid.value?.children);

  const source: Source = {
    kept({ pupilId, at, slot }) {
      const cell = childOf(pupilId)?.cells[columnOf(grid.value, at)];
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
      const timed = grid.value?.tests[columnOf(grid.value, place.at)]?.kind === "time";
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
      putChild(queries, job.at, answered as Child);
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
