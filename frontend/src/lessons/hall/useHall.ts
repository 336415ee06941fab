/** Which block the hall shows, the way that fits it, and what its one large button does. */
import { t } from "../../messages/lessons";
import { useLocalStorage } from "@vueuse/core";
import { computed, nextTick, ref, watch } from "vue";
import { useRoute, useRouter, type LocationQueryRaw } from "vue-router";
import type { Schemas } from "../../api/client";
import { BLOCKS } from "../../api/vocabulary";

import { wake } from "../../parts/sound/sound";
import type { HallClock } from "../../sheet/types";
import { wayFor, waysOf } from "../../sheet/ways";
import * as conductor from "./clock/conductor";
import type { Lead } from "./clock/useConductor";

type Lesson = Schemas["LessonPage"];
/** One thing the hall can show: a block of the plan, or what stands beside it. */
export interface Stop {
  id: string;
  label: string;
  kind: Schemas["TimelineBlock"]["kind"] | "grid";
  activity: Schemas["ActivityPage"] | null;
  /** Its place in the timeline; null beside the plan. */
  block: number | null;
  /** Which of the lesson's pulse checks it is, from 0. */
  check: number | null;
  /** A private test that is not this person's to see. */
  closed: boolean;
}
const BESIDE = { activity: null, block: null, check: null, closed: false };
const ALL_TESTS: Stop = { ...BESIDE, id: "all", label: t("allTests"), kind: "grid" };
const PULSES: Stop = { ...BESIDE, id: "pulses", label: t("pulses"), kind: "pulse" };
/** Ways with a clock of their own. */
const OWN_CLOCKS = new Set(["tap", "beeps"]);
/** Blocks whose time is only a guess: they end when somebody says so, or by themselves. */
const TALKS = new Set<string>(BLOCKS.filter((one) => one.talks).map((one) => one.code));

export function takesScores(stop: Stop | null): boolean {
  return stop !== null && (stop.kind === "pulse" || stop.kind === "grid" || stop.activity !== null);
}

/** Of blocks that are called the same, which is which. */
function toldApart(stops: Stop[]): Stop[] {
  const of = (label: string) => stops.filter((one) => one.label === label);
  return stops.map((stop) => {
    const same = of(stop.label);
    const label = t("labelStopOfSame", {
      label: stop.label,
      stop: same.indexOf(stop) + 1,
      same: same.length,
    });
    return same.length > 1 ? { ...stop, label } : stop;
  });
}

export function useHall(
  lesson: () => Lesson,
  lead: Lead,
  /** Whether everybody has a score of an activity. */
  isAllIn: (activityId: string) => boolean,
) {
  const route = useRoute();
  const router = useRouter();
  const { plan, state, place, waiting } = lead;

  const stops = computed<Stop[]>(() => {
    const blocks = plan.value?.blocks ?? [];
    const { activities, battery } = lesson();
    const pulses = (to: number) => blocks.slice(0, to).filter((one) => one.kind === "pulse").length;
    const planned = blocks.map((block, index) => ({
      id: block.id ?? `block-${index}`,
      label: block.label,
      kind: block.kind,
      activity: activities.find((one) => one.id === block.activity_id) ?? null,
      block: index,
      check: block.kind === "pulse" ? pulses(index) : null,
      closed: block.closed,
    }));
    const beside = activities
      .filter((one) => !blocks.some((block) => block.activity_id === one.id))
      .map((one): Stop => ({
        ...BESIDE,
        id: one.id,
        label: one.test,
        kind: "test",
        activity: one,
      }));
    return [
      ...(battery ? [ALL_TESTS] : []),
      ...toldApart(planned),
      ...beside,
      ...(!battery && activities.length > 1 ? [ALL_TESTS] : []),
      ...(pulses(blocks.length) ? [] : [PULSES]),
    ];
  });
  const live = computed(() => state.value !== null && !state.value.ended);
  const paused = computed(() => state.value?.paused_ms != null);
  const index = computed(() => {
    if (!plan.value || !state.value) return 0;
    const at = conductor.segmentAt(plan.value, place.value);
    return Math.max(0, Math.min(at, plan.value.segments.length - 1));
  });
  /** The stretch of time that the clock is in, or begins with. */
  const segment = computed(() => plan.value?.segments[index.value] ?? null);
  const stopOn = computed(() => {
    const block = segment.value?.block;
    return stops.value.find((one) => one.block !== null && one.block === block) ?? null;
  });

  /** Whether the clock is at it. */
  const isOn = (stop: Stop | null) => live.value && stop !== null && stop.id === stopOn.value?.id;

  /** The one that was chosen by hand; without one the hall goes with the clock. */
  const chosen = computed(() => {
    const { block, activity } = route.query;
    const byId = stops.value.find((one) => one.id === block);
    return byId ?? stops.value.find((one) => activity && one.activity?.id === activity) ?? null;
  });
  const shown = computed<Stop | null>(() => {
    if (chosen.value) return chosen.value;
    if (live.value) return stopOn.value;
    const last = state.value?.ended ? stops.value.findLast((one) => one.activity) : undefined;
    return last ?? stops.value[0] ?? null;
  });
  /** Another was asked for and is not on screen yet. */
  const leaving = ref(false);
  function show(stop: Stop | null) {
    const { way, ...rest } = route.query;
    delete rest.block;
    delete rest.activity;
    const kept = way && stop?.activity?.kind === shown.value?.activity?.kind ? { way } : {};
    const block = stop && !isOn(stop) ? { block: stop.id } : {};
    void turnTo({ ...rest, ...kept, ...block });
  }
  async function turnTo(query: LocationQueryRaw) {
    leaving.value = true;
    try {
      await router.replace({ query });
      await nextTick();
    } finally {
      leaving.value = false;
    }
  }
  /** Something was entered in what is shown: it stays when the clock goes on, until all are in. */
  const touched = ref(false);
  watch(
    stopOn,
    (on, before) => {
      if (!live.value || on?.id === before?.id) return;
      // One pulse after another is the same table: it goes on to the next column.
      if (on?.kind === "pulse" && (chosen.value ?? before)?.kind === "pulse") show(on);
      else if (!chosen.value && touched.value && before && wants(before)) show(before);
    },
    { flush: "sync" },
  );
  function wants(stop: Stop): boolean {
    return takesScores(stop) && !(stop.activity && isAllIn(stop.activity.id));
  }
  watch(
    () => shown.value?.id,
    () => (touched.value = false),
  );

  /** The way used last for a kind of score is the one for the next. */
  const preferred = useLocalStorage<Record<string, string>>("lauf.ways", {});
  const kind = computed(() => shown.value?.activity?.kind ?? "");
  const ways = computed(() => (shown.value?.activity ? waysOf(kind.value) : []));
  const way = computed(() => {
    const named = (name: unknown) => ways.value.find((one) => one.name === name);
    const asked = named(route.query.way) ?? named(preferred.value[kind.value]);
    return asked ?? named(wayFor(kind.value)) ?? null;
  });
  function chooseWay(name: string) {
    preferred.value = { ...preferred.value, [kind.value]: name };
    void turnTo({ ...route.query, way: name });
  }

  /** The goes of the test that is shown. */
  const works = computed(() => {
    const block = shown.value?.block ?? null;
    if (block === null) return [];
    return (plan.value?.segments ?? []).filter(
      (one) => one.block === block && one.phase === "work",
    );
  });
  const go = computed(() => {
    if (!state.value) return null;
    // Getting ready belongs to the go it is for.
    const there = segment.value?.phase === "ready" ? segment.value.to_ms : place.value;
    return works.value.findLast((one) => one.from_ms <= there) ?? null;
  });
  const phase = computed<HallClock["phase"]>(() => {
    if (!go.value || !state.value) return "before";
    if (place.value < go.value.from_ms) return "ready";
    return place.value < go.value.to_ms ? "work" : "after";
  });
  const left = computed(() => {
    if (!go.value || phase.value === "after") return 0;
    const end = phase.value === "ready" ? go.value.from_ms : go.value.to_ms;
    return Math.max(0, Math.ceil((end - place.value) / 1000));
  });
  const worked = computed(() => {
    if (!go.value) return 0;
    const to = Math.min(place.value, go.value.to_ms);
    return Math.max(0, Math.floor((to - go.value.from_ms) / 1000));
  });
  /** What the way goes by; null where the test has no clock that is called. */
  const clock = computed<HallClock | null>(() =>
    works.value.length
      ? {
          go: go.value ? `${state.value?.run_id} ${go.value.id}` : "",
          phase: phase.value,
          left: left.value,
          worked: worked.value,
        }
      : null,
  );

  /** A second press of "Start the lesson" was not meant for the button that came in its place. */
  let startedAt = -Infinity;
  const REPEATED_MS = 400;
  function start() {
    startedAt = performance.now();
    wake();
    lead.lock.hold();
    lead.forget();
    void lead.start();
  }
  function goOn() {
    // Who says go wants to see what goes.
    if (waiting.value) show(stopOn.value);
    wake();
    lead.lock.hold();
    lead.goOn();
  }
  function pause() {
    lead.pause();
    lead.lock.release();
  }
  function skip() {
    wake();
    lead.forget();
    if (segment.value) lead.skip(segment.value.id);
  }
  function skipBlock() {
    wake();
    lead.forget();
    if (segment.value) lead.skipBlock(segment.value.id);
  }
  function endOwn() {
    if (performance.now() - startedAt > REPEATED_MS) skipBlock();
  }
  const following = computed(() => plan.value?.segments[index.value + 1] ?? null);
  const blockAfter = computed(() => plan.value?.blocks[(segment.value?.block ?? 0) + 1] ?? null);
  /** A stretch that ends when somebody says so: of talk, of setting up, of changing over. */
  const isOpen = computed(() => {
    const one = segment.value;
    const block = plan.value?.blocks[one?.block ?? -1];
    if (!one || !block) return false;
    if (one.phase === "swap") return following.value?.waits ?? false;
    return one.phase === "open" && (TALKS.has(block.kind) || (block.kind === "test" && !one.wave));
  });
  /** A test whose clock nobody calls: how long it takes shows while it is done. */
  const isOwnClock = computed(() => segment.value?.phase === "open" && segment.value.wave > 0);
  /**
   * What is shown is timed by a clock of its own, and that is the one in the strip: a test that nobody
   * calls, while the plan is at it or where it was opened by hand.
   */
  const hasOwn = computed(() => {
    const stop = shown.value;
    if (!stop || stop.kind === "grid") return false;
    // A table of pulses is written while the plan goes on: its clock is the plan's.
    if (stop.kind === "pulse") return !live.value && chosen.value !== null;
    const name = way.value?.name ?? "";
    if (!OWN_CLOCKS.has(name) && !(name === "target" && !clock.value)) return false;
    if (!isOn(stop)) return chosen.value !== null || state.value !== null || isFirst(stop);
    return !waiting.value && ["open", "work"].includes(segment.value?.phase ?? "");
  });
  const isFirst = (stop: Stop) => stop.id === stops.value[0]?.id;
  /** The plan stands while a test beside it is timed: with one clock on, nobody misses the other. Who
   * starts the test that the plan begins with has started the lesson. */
  function ownStarted() {
    if (!state.value && shown.value && isFirst(shown.value)) start();
    if (live.value && !isOn(shown.value) && !paused.value && !waiting.value) lead.pause();
  }
  /** The clock waits at the end of a pulse check until all are written down. */
  const waitsForPulses = computed(() => waiting.value && segment.value?.phase === "write");
  /** The one large button: what it says, what it does, whether Space does it too. */
  const primary = computed(() => {
    if (lead.starting.value) return { says: t("starting"), act: start, space: true };
    if (!state.value) return { says: t("startTheLesson"), act: start, space: true };
    if (!live.value) return null;
    if (waitsForPulses.value) return { says: t("allInContinue"), act: goOn, space: true };
    if (waiting.value) {
      const many = works.value.some((one) => one.wave > 1);
      const wave = many && segment.value?.wave ? t("waveWave2", { wave: segment.value.wave }) : "";
      return { says: t("startWave", { wave }), act: goOn, space: true };
    }
    if (paused.value) return { says: t("continue"), act: goOn, space: true };
    const next = blockAfter.value?.label ?? t("theEnd2");
    if (isOwnClock.value) return { says: t("nextNext", { next }), act: endOwn, space: false };
    if (!isOpen.value) return { says: t("pause"), act: pause, space: true };
    const inBlock = following.value?.block === segment.value?.block;
    return { says: inBlock ? t("readyStart") : t("nextNext", { next }), act: skip, space: true };
  });

  return {
    ...{
      stops,
      stopOn,
      isOn,
      segment,
      chosen,
      shown,
      show,
      leaving,
      touched,
      live,
      paused,
      waiting,
      waitsForPulses,
      clock,
      phase,
    },
    ...{ ways, way, chooseWay, primary, isOwnClock, hasOwn, ownStarted, start, pause, skip },
    /** The clock runs, and the large button does something else than to pause it. */
    canPause: computed(
      () => live.value && !paused.value && !waiting.value && primary.value?.act !== pause,
    ),
    back() {
      lead.forget();
      lead.back();
    },
    again() {
      lead.forget();
      lead.again();
    },
  };
}
export type Hall = ReturnType<typeof useHall>;
