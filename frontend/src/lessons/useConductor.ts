/**
 * The conductor of one lesson: kept on this device at once, told to the server as soon as it can be
 * reached, and followed by the projector. Test waves that end are reported as the clock's runs.
 */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { useIntervalFn } from "@vueuse/core";
import { v4 as newId, v5 as namedId } from "uuid";
import { computed, inject, onBeforeUnmount, provide, ref, type InjectionKey } from "vue";
import { answer, client, type Schemas } from "../api/client";
import * as conductor from "./conductor";
import { now } from "../parts/timeSource";
import { useCalls } from "./useCalls";

type Conduct = conductor.Conduct;
type Page = Schemas["TimelinePage"];
interface Pin {
  runId: string;
  page: Page;
}
/** What a window tells the others of this device. */
export function channel(lessonId: string): BroadcastChannel {
  return new BroadcastChannel(`lauf.conduct.${lessonId}`);
}

export function useTimeline(lessonId: string) {
  return useQuery({
    queryKey: ["timeline", lessonId],
    queryFn: () =>
      answer(
        client.GET("/api/lessons/{lesson_id}/timeline", {
          params: { path: { lesson_id: lessonId } },
        }),
      ),
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
  const state = ref<Conduct | null>(kept());
  /** The run this device leads: it calls, and puts on record what has ended. */
  const leads = ref(localStorage.getItem(`${key}.leads`));
  const told = ref(0);
  const unsent = ref(false);
  const air = channel(lessonId);
  let telling = false;

  function kept(): Conduct | null {
    try {
      return JSON.parse(localStorage.getItem(key) ?? "null") as Conduct | null;
    } catch {
      return null;
    }
  }
  const known = computed(() => newer(state.value, query.data.value?.conduct ?? null));
  /** The timeline a run began with, kept with it: a plan changed meanwhile does not touch it. */
  const pinned = ref(keptPin());
  function keptPin(): Pin | null {
    try {
      return JSON.parse(localStorage.getItem(`${key}.plan`) ?? "null") as Pin | null;
    } catch {
      return null;
    }
  }
  function pin(runId: string, page: Page) {
    pinned.value = { runId, page };
    localStorage.setItem(`${key}.plan`, JSON.stringify(pinned.value));
  }
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
    localStorage.setItem(`${key}.leads`, change.run_id);
    localStorage.setItem(key, JSON.stringify(change));
    air.postMessage(JSON.parse(JSON.stringify(change)));
    void tell();
  }
  async function tell() {
    const body = state.value;
    if (telling || !body || body.revision === told.value) return;
    telling = true;
    try {
      await answer(
        client.PUT("/api/lessons/{lesson_id}/conduct", {
          params: { path: { lesson_id: lessonId } },
          body,
        }),
      );
      told.value = body.revision;
      await reportRuns(body);
      unsent.value = false;
    } catch {
      unsent.value = true;
    } finally {
      telling = false;
    }
    if (state.value && state.value.revision !== told.value && !unsent.value) void tell();
  }
  // What the network did not take is offered again.
  useIntervalFn(() => void tell(), 2_000);

  /** Every wave of a test that was worked, with the seconds that were really worked. */
  async function reportRuns(body: Conduct) {
    const page = plan.value;
    if (!page) return;
    const sentKey = `${key}.runs`;
    const sent = JSON.parse(localStorage.getItem(sentKey) ?? "{}") as Record<string, string>;
    for (const { segment: id, seconds, planned } of body.done ?? []) {
      const segment = page.segments.find((one) => one.id === id);
      const activity = segment && page.blocks[segment.block]?.activity_id;
      const name = `${body.run_id} ${id}`;
      if (!segment || !activity || segment.phase !== "work" || sent[name]) continue;
      if (segment.try_number > 1) continue; // the clock of a wave is the same for every try
      const worked = Math.min(planned, seconds);
      try {
        await answer(
          client.PUT("/api/activities/{activity_id}/runs/{run_id}", {
            // The same wave told twice is one run.
            params: { path: { activity_id: activity, run_id: namedId(name, namedId.URL) } },
            body: {
              way: "wave",
              wave: segment.wave,
              try_number: 1,
              go_ms: 0,
              revision: 1,
              anchor_ms: Math.max(0, body.anchor_ms + segment.from_ms),
              paused_ms: null,
              pauses: [],
              ended: worked >= planned ? "complete" : "early",
              worked_seconds: worked,
            },
          }),
        );
      } catch (error) {
        // A wave that counts already was run before: the first one stays.
        if ((error as { status?: number }).status !== 422) throw error;
      }
      sent[name] = "sent";
      localStorage.setItem(sentKey, JSON.stringify(sent));
    }
  }

  function step(change: (state: Conduct, plan: conductor.Timeline, at: number) => Conduct) {
    if (!known.value || !plan.value) return;
    const after = change(known.value, plan.value, now());
    if (after !== known.value) keep(after);
  }
  air.onmessage = (message: MessageEvent<Conduct>) => {
    state.value = newer(state.value, message.data);
  };
  onBeforeUnmount(() => air.close());

  return {
    query,
    plan,
    state: known,
    unsent,
    leading: computed(() => known.value !== null && leads.value === known.value.run_id),
    /** Begin with the plan as it stands; without a network, with the one that is here. */
    async start() {
      const page = await freshTimeline(lessonId).catch(() => query.data.value);
      if (!page) return;
      queries.setQueryData(["timeline", lessonId], { ...page, newer_plan: false });
      const begun = conductor.begin(newId(), page.plan_revision, now());
      pin(begun.run_id, page);
      keep(begun);
    },
    togglePause() {
      step((one, _, at) =>
        one.paused_ms == null ? conductor.pause(one, at) : conductor.resume(one, at),
      );
    },
    skip: () => step(conductor.skip),
    back: () => step(conductor.back),
    swap: (label: string, activityId: string | null, station?: string) =>
      step((one, made, at) => conductor.swap(one, made, at, label, activityId, station)),
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
