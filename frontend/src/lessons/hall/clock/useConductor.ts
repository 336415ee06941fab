/**
 * The conductor of one lesson: kept on this device at once, told to the server as soon as it can be
 * reached, and followed by the projector. Test waves that end are reported as the clock's runs.
 */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import {
  promiseTimeout,
  StorageSerializers,
  useBroadcastChannel,
  useLocalStorage,
} from "@vueuse/core";
import { v4 as newId } from "uuid";
import { computed, inject, provide, ref, watch, type InjectionKey } from "vue";
import { answer, client, type Schemas } from "../../../api/client";
import * as conductor from "./conductor";
import { now } from "../../../parts/time/timeSource";
import { useCalls } from "./useCalls";
import { startRun, type Run } from "../../../sheet/run";
import { runLane } from "../../../sync/lane";
import { useSync } from "../../../sync/useSync";
import { wavesToTell, type Told } from "./waves";

type Conduct = conductor.Conduct;
type Page = Schemas["TimelinePage"];
/** How long Start waits for a plan that may have been changed elsewhere. */
const PATIENCE_MS = 2_000;
interface Pin {
  runId: string;
  page: Page;
}
/** What windows of this device tell each other of a conductor. */
export function useAir(lessonId: string, heard: (state: Conduct) => void) {
  const { data, post } = useBroadcastChannel<Conduct, Conduct>({
    name: `lauf.conduct.${lessonId}`,
  });
  watch(data, (state: Conduct | undefined) => state && heard(state), { flush: "sync" });
  return (state: Conduct) => post(JSON.parse(JSON.stringify(state)) as Conduct);
}

/** A value kept on this device as JSON. */
function keptHere<T>(key: string) {
  return useLocalStorage<T | null>(key, null, { serializer: StorageSerializers.object });
}

export const timelinePage = (lessonId: string) => ({
  queryKey: ["timeline", lessonId],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/timeline", {
        params: { path: { lesson_id: lessonId } },
      }),
    ),
  staleTime: Infinity,
});

export function useTimeline(lessonId: string) {
  return useQuery(timelinePage(lessonId));
}

/** The conductor as the server has it: asked for when it was changed elsewhere. */
export function useConduct(lessonId: string) {
  return useQuery({
    queryKey: ["conduct", lessonId],
    queryFn: async () =>
      (await answer(
        client.GET("/api/lessons/{lesson_id}/conduct", {
          params: { path: { lesson_id: lessonId } },
        }),
      )) ?? null,
    staleTime: Infinity,
  });
}

function freshTimeline(lessonId: string) {
  return answer(
    client.GET("/api/lessons/{lesson_id}/timeline", {
      params: { path: { lesson_id: lessonId }, query: { fresh: true } },
    }),
  );
}

/** The newer of two states of a conductor; another run than the known one is the newer start. */
export function newer(one: Conduct | null, other: Conduct | null): Conduct | null {
  if (!one || !other) return one ?? other;
  if (one.run_id === other.run_id) return one.revision >= other.revision ? one : other;
  return one.anchor_ms >= other.anchor_ms ? one : other;
}

function conduct(lessonId: string) {
  const query = useTimeline(lessonId);
  const queries = useQueryClient();
  const key = `lauf.conduct.${lessonId}`;
  const state = keptHere<Conduct>(key);
  /** The run this device leads: it calls, and puts on record what has ended. */
  const leads = useLocalStorage(`${key}.leads`, "");
  const sync = useSync();
  /** Waves that were put on record: the run that stands for each, and how many did before it. */
  const reported = useLocalStorage<Told>(`${key}.waves`, {});
  const tellOthers = useAir(lessonId, (heard) => (state.value = newer(state.value, heard)));

  const elsewhere = useConduct(lessonId);
  const known = computed(() =>
    newer(newer(state.value, query.data.value?.conduct ?? null), elsewhere.data.value ?? null),
  );
  /** The timeline a run began with, kept with it: a plan changed meanwhile does not touch it. */
  const pinned = keptHere<Pin>(`${key}.plan`);
  const base = computed(() =>
    pinned.value && pinned.value.runId === known.value?.run_id
      ? pinned.value.page
      : (query.data.value ?? null),
  );
  /** The plan as it is conducted, with what was changed on the spot. */
  const plan = computed(() => (base.value ? conductor.standing(base.value, known.value) : null));

  function keep(change: Conduct) {
    state.value = change;
    leads.value = change.run_id;
    tellOthers(change);
    tell(change);
  }
  const lane = `conduct ${lessonId}`;
  function tell(body: Conduct) {
    void sync.put({ kind: "conduct", id: lane, lane, at: lessonId, body });
    reportRuns(body);
  }
  const unsent = computed(() =>
    sync.mine.value.some((job) => job.lane === lane && sync.stateOf(job) === "waiting"),
  );

  /** Every wave of a test that was worked, with the seconds that were really worked. */
  function reportRuns(body: Conduct) {
    if (!plan.value) return;
    const { told, runs } = wavesToTell(plan.value, body, reported.value);
    for (const { activity, run } of runs) tellRun(activity, run);
    reported.value = told;
  }
  function tellRun(at: string, body: Run) {
    const lane = runLane(body.id);
    void sync.put({ kind: "run", id: lane, lane, at, body });
  }

  function step(change: (state: Conduct, plan: conductor.Timeline, at: number) => Conduct) {
    if (!known.value || !plan.value) return;
    const after = change(known.value, plan.value, now());
    if (after !== known.value) keep(after);
  }
  const starting = ref(false);
  function soonTimeline(): Promise<Page | undefined> {
    const fresh = freshTimeline(lessonId).catch(() => query.data.value);
    const here = promiseTimeout(PATIENCE_MS).then(() => query.data.value ?? fresh);
    return Promise.race([fresh, here]);
  }

  // What an earlier page could not tell any more.
  watch(
    () => query.data.value,
    (page, before) => {
      const mine = state.value;
      if (before || !page || !mine || leads.value !== mine.run_id) return;
      const there = page.conduct?.run_id === mine.run_id ? page.conduct.revision : 0;
      if (newer(mine, page.conduct) === mine && mine.revision > there) tell(mine);
    },
    { immediate: true },
  );

  return {
    query,
    plan,
    state: known,
    unsent,
    leading: computed(() => known.value !== null && leads.value === known.value.run_id),
    /** Between the press and the first second of the clock. */
    starting,
    /**
     * Begin with the plan as it stands; without a network, or where it takes longer than a class waits,
     * with the one that is here. A second call while the first is under way does nothing.
     */
    async start() {
      if (starting.value) return;
      starting.value = true;
      try {
        const page = await soonTimeline();
        if (!page) return;
        queries.setQueryData(["timeline", lessonId], { ...page, newer_plan: false });
        const begun = conductor.begin(newId(), page.plan_revision, now());
        pinned.value = { runId: begun.run_id, page };
        keep(begun);
      } finally {
        starting.value = false;
      }
    },
    // Each does what its button says, whatever has changed since it was drawn.
    pause: () => step(conductor.pause),
    goOn: () => step(conductor.resume),
    /** The go that is on, or was last, once more; that it was begun stays on record. */
    again() {
      step((one, made, at) => {
        const place = conductor.placeAt(made, one, at);
        const segment = made.segments[conductor.segmentAt(made, place)];
        const activity = segment && made.blocks[segment.block]?.activity_id;
        if (activity && segment.phase === "work" && segment.try_number === 1) {
          const anchor = Math.max(0, one.anchor_ms + segment.from_ms);
          tellRun(activity, { ...startRun(newId(), segment.wave, anchor), ended: "restarted" });
        }
        return conductor.again(one, made, at);
      });
    },
    skip: (shown: string) => step((one, made, at) => conductor.skip(one, made, at, shown)),
    skipBlock: (shown: string) =>
      step((one, made, at) => conductor.skipBlock(one, made, at, shown)),
    back: () => step(conductor.back),
    swap: (
      label: string,
      activityId: string | null,
      more: { station?: string; seconds?: number | null } = {},
    ) =>
      step((one, made, at) =>
        conductor.swap(one, made, at, label, activityId, more.station, more.seconds),
      ),
    wall: (shows: NonNullable<Conduct["wall"]>) => step((one) => conductor.showOnWall(one, shows)),
    stretch: (ms: number) => step((one, made, at) => conductor.stretch(one, made, ms, at)),
    /** Put on record what has ended by itself. */
    record(from: number, to: number) {
      step((one, made) => conductor.record(one, made, from, to));
    },
  };
}

export type Lead = ReturnType<typeof conduct> & ReturnType<typeof useCalls>;
const KEY: InjectionKey<Lead> = Symbol("conductor");

/** The conductor of a lesson for all its screens: it goes on calling whichever of them is open. */
export function provideConductor(lessonId: string): Lead {
  const lead = conduct(lessonId);
  const all = { ...lead, ...useCalls(lead) };
  provide(KEY, all);
  return all;
}

export function useConductor(): Lead {
  const found = inject(KEY);
  if (!found) throw new Error("useConductor outside a lesson");
  return found;
}
