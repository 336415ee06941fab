/** A class in one test: every child's tries. */
import { tryOf } from "../../sync/lane";
import { useQuery, useQueryClient, type QueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { answer, client, type Schemas } from "../../api/client";
import { useSync } from "../../sync/useSync";
import { unlessTold } from "../../sync/live";
import type { Board, Child, Place, Question, Source } from "../types";
import { attemptJob } from "./entry";
import { byPupil } from "./children";
import { lanesKey, putChild } from "./pages";
import { inOtherTests } from "./together";

const ALL_TRIES_AFTER_MS = 400;

const read = (activityId: string) =>
  answer(
    client.GET("/api/activities/{activity_id}/lanes", {
      params: { path: { activity_id: activityId } },
    }),
  );

/** Have a test's sheet on this device before it is opened; without a network it is as it was. */
export function fetchLanes(queries: QueryClient, activityId: string): Promise<void> {
  return queries.query({
    queryKey: lanesKey(activityId),
    queryFn: () => read(activityId),
    staleTime: 60_000,
  });
}

export function useLanes(activityId: string, openRun: () => string | null) {
  const queries = useQueryClient();
  const sync = useSync();
  const key = lanesKey(activityId);
  const query = useQuery({
    queryKey: key,
    queryFn: () => read(activityId),
    // Another device's scores appear by themselves.
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(20_000)),
  });
  const board = query.data;
  const childOf = byPupil(() => board.value?.children);

  // Tries of one child are sent at the same time, and an answer can be overtaken by the next one's:
  // what it says of the other tries is then older than what is shown.
  const allTries = useDebounceFn(() => query.refetch(), ALL_TRIES_AFTER_MS);

  /** The other tests of the lesson, as they are on this device. */
  const others = () =>
    queries
      .getQueriesData<Board>({ queryKey: ["lanes"] })
      .flatMap(([, one]) => one ?? [])
      .filter(
        (one) =>
          one.activity_id !== activityId &&
          one.lesson_id === board.value?.lesson_id &&
          !one.private,
      );
  const childAt = (at: string, pupilId: string) =>
    at === activityId
      ? childOf(pupilId)
      : others()
          .find((one) => one.activity_id === at)
          ?.children.find((one) => one.pupil_id === pupilId);

  const source: Source = {
    kept({ pupilId, at, slot }) {
      const child = childAt(at, pupilId);
      if (!child) return null;
      const one = child.tries.find((each) => each.number === slot);
      const score = one?.score;
      return {
        head: one?.head ?? null,
        stands: Boolean(score),
        typed: score?.typed ?? "",
        shown: score ? shownOf(score) : "",
        variant: score?.variant ?? child.variant,
      };
    },
    job: (place, entry) =>
      attemptJob(place, entry, board.value?.kind === "time" ? openRun() : null),
    isOwn: ({ at }) => at === activityId,
    alsoFor: ({ pupilId }, { typed }) =>
      inOtherTests(
        pupilId,
        typed,
        board.value?.reasons ?? [],
        others().flatMap(({ activity_id, reasons, children }) => {
          const child = children.find((one) => one.pupil_id === pupilId);
          if (!child) return [];
          const empty = !child.tries.some((one) => one.score);
          return [{ at: activity_id, reasons, variant: child.variant, empty }];
        }),
      ),
    placeOf(job) {
      if (job.kind !== "attempt") return null;
      const isOther = () => others().some((one) => one.activity_id === job.at);
      if (job.at !== activityId && !isOther()) return null;
      return { pupilId: job.body.pupil_id, at: job.at, slot: tryOf(job.body) };
    },
    take({ at }, answered) {
      const child = answered as Child;
      putChild(queries, at, child);
      if (at === activityId && child.tries.length > 1) void allTries();
    },
    name: (pupilId) => childOf(pupilId)?.name ?? "",
    announcementOf: (job, child) =>
      announcementOf(child as Child, job.kind === "attempt" ? tryOf(job.body) : 1),
    questionsOf: (job, child) => questionsOf(source.placeOf(job), child as Child),
    async settle(question) {
      const child = await settleFlags(question.entryId, question.flags);
      if (child) putChild(queries, activityId, child);
      nowCounts(queries);
      return child ? announcementOf(child, question.place.slot) : "";
    },
  };
  return { query, board, source };
}

export function shownOf(score: Schemas["Score"]): string {
  return score.shown + (score.estimate ? " ~" : "");
}
/** The words say already that a score is an estimate. */
export function openFlags(child: Child) {
  return child.flags.filter((flag) => !flag.settled && flag.code !== "estimate");
}
/** What is asked about a score, at the place it was entered. */
export function questionsOf(place: Place | null, child: Child): Question | null {
  const flags = openFlags(child);
  if (!place || !flags.length || !child.score) return null;
  return { place, flags, shown: child.score.shown, entryId: child.score.id };
}
/** How a child's try was kept, and what it means: for the ear. */
export function announcementOf(child: Child, slot: number): string {
  const score = child.tries.find((one) => one.number === slot)?.score;
  const words = [score ? shownOf(score) : "nothing now", ...child.words];
  // A reason is all that is to be said of a child without a score.
  return [...new Set(words)].join(", ");
}
/** A score that was settled counts from now on: what the lesson found is older than that. */
export function nowCounts(queries: QueryClient) {
  for (const page of ["lesson-summary", "results"])
    void queries.invalidateQueries({ queryKey: [page] });
}
export async function settleFlags(entryId: string, flags: { code: string }[]) {
  let child: Child | null = null;
  for (const { code } of flags) {
    child = await answer(
      client.POST("/api/attempts/{attempt_id}/confirm", {
        params: { path: { attempt_id: entryId } },
        body: { flag: code },
      }),
    );
  }
  return child;
}
