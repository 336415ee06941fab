/** A pulse series: every child's pulse at each moment of the lesson. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import { computed, onScopeDispose, ref, type Ref } from "vue";
import { answer, client, type Schemas } from "../../api/client";
import { now } from "../../parts/time/timeSource";
import { useSync } from "../../sync/useSync";
import { unlessTold } from "../../sync/live";
import { byPupil } from "./children";
import { putIn } from "./putIn";
import type { Question, Source } from "../types";

export type PulseChild = Schemas["PulseChild"];
export type Moment = Schemas["PulseColumn"];
const SUMS_AFTER_MS = 600;

export type Formula = "tanaka" | "220";
export const pulsePage = (lessonId: string, formula: Formula) => ({
  queryKey: ["pulse", lessonId, formula],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/pulse", {
        params: { path: { lesson_id: lessonId }, query: { formula } },
      }),
    ),
});

export function usePulses(lessonId: string, formula: Ref<Formula>) {
  const queries = useQueryClient();
  const sync = useSync();
  const key = computed(() => pulsePage(lessonId, formula.value).queryKey);
  const query = useQuery({
    queryKey: key,
    queryFn: () => pulsePage(lessonId, formula.value).queryFn(),
    placeholderData: (old) => old,
    refetchInterval: () => (sync.waiting.value ? false : unlessTold(20_000)),
  });
  const page = query.data;
  /** Moments that were added here and have no reading yet. */
  const added = ref<Moment[]>([]);
  const moments = computed<Moment[]>(() => {
    const known = page.value?.columns ?? [];
    const there = new Set(known.map((one) => one.position));
    return [...known, ...added.value.filter((one) => !there.has(one.position))];
  });
  const sums = useDebounceFn(() => query.refetch(), SUMS_AFTER_MS);
  // What is really done names the moment after it.
  const stop = sync.onSaved((job) => {
    if (job.kind === "conduct" && job.at === lessonId) void sums();
  });
  onScopeDispose(stop);
  const childOf = byPupil(() => page.value?.children);
  const readingOf = (child: PulseChild | undefined, at: number) =>
    child?.readings.find((one) => one.position === at);

  const source: Source = {
    kept({ pupilId, at, slot }) {
      if (at !== lessonId) return null;
      const reading = readingOf(childOf(pupilId), slot);
      return {
        head: reading?.id ?? null,
        stands: Boolean(reading && !reading.taken_back),
        typed: reading?.typed ?? "",
        shown: reading?.shown ?? "",
        variant: "",
      };
    },
    job({ pupilId, slot }, entry) {
      const moment = moments.value.find((one) => one.position === slot);
      return {
        kind: "pulse",
        body: {
          id: "",
          pupil_id: pupilId,
          position: slot,
          moment: (moment?.moment ?? "rest") as "rest",
          label: moment?.label ?? "",
          waited: moment?.moment === "recovery" ? (entry.waited ?? null) : null,
          typed: entry.typed,
          seconds: entry.seconds ?? 10,
          confirmed: entry.confirmed ?? false,
          withdrawn: false,
          recorded_at: entry.recorded_at ?? new Date(now()).toISOString(),
        },
      };
    },
    placeOf(job) {
      if (job.kind !== "pulse" || job.at !== lessonId) return null;
      return { pupilId: job.body.pupil_id, at: lessonId, slot: job.body.position };
    },
    take(_job, child) {
      const newer = child as PulseChild;
      putIn<Schemas["PulsePage"]>(queries, key.value, (old) => ({
        ...old,
        children: old.children.map((one) => (one.pupil_id === newer.pupil_id ? newer : one)),
      }));
      // The sums are older than the entry: whoever opens the page next asks anew.
      void queries.invalidateQueries({ queryKey: key.value, refetchType: "none" });
      void sums();
    },
    name: (pupilId) => childOf(pupilId)?.name ?? "",
    announcementOf(job, answered) {
      const child = answered as PulseChild;
      const reading = job.kind === "pulse" ? readingOf(child, job.body.position) : undefined;
      return [reading?.shown || "nothing now", ...child.words].join(", ");
    },
    questionsOf(job, answered) {
      if (job.kind !== "pulse") return null;
      const slot = job.body.position;
      const reading = readingOf(answered as PulseChild, slot);
      if (!reading?.flags.length) return null;
      const place = { pupilId: job.body.pupil_id, at: lessonId, slot };
      return { place, flags: reading.flags, shown: reading.shown, entryId: reading.id };
    },
    confirming({ place }: Question) {
      const reading = readingOf(childOf(place.pupilId), place.slot);
      return reading
        ? { typed: reading.typed, seconds: reading.seconds ?? 10, confirmed: true }
        : null;
    },
  };
  return { query, page, moments, added, source };
}
