/** What the conductor's clock says now and what comes next: the same on every screen. */
import { t } from "../../../messages/lessons";
import { computed, type Ref } from "vue";
import * as conductor from "./conductor";

const PHASES: Record<string, string> = {
  ready: t("getReady"),
  work: t("work"),
  rest: t("rest"),
  count: t("count"),
  write: t("writeDown"),
  swap: t("swap"),
  settle: t("stop"),
};
/** Phases that are told of with what they belong to. */
const QUIET = new Set(["settle", "ready"]);
/** What is called in a phase; nothing where the label says it. */
export function phaseWords(phase: string | undefined): string | undefined {
  return PHASES[phase ?? ""];
}

export function useClockWords(
  plan: Readonly<Ref<conductor.Timeline | null>>,
  state: Readonly<Ref<conductor.Conduct | null>>,
  place: Readonly<Ref<number>>,
) {
  const index = computed(() =>
    plan.value && state.value ? conductor.segmentAt(plan.value, place.value) : 0,
  );
  const segment = computed(() => plan.value?.segments[index.value] ?? null);
  const block = computed(() => plan.value?.blocks[segment.value?.block ?? -1] ?? null);
  const left = computed(() => {
    if (!segment.value) return 0;
    const from = state.value ? place.value : segment.value.from_ms;
    return conductor.secondsLeft(segment.value, from);
  });
  /** More of the same, as the trials of a test that nobody calls. */
  const isMore = (one: conductor.Segment) => one.phase === "open" && one.wave > 1;
  const following = computed(() => {
    const now = segment.value?.block;
    const later = plan.value?.segments
      .slice(index.value + 1)
      .find((one) => one.block !== now || (!QUIET.has(one.phase) && !isMore(one)));
    if (!later) return t("theEnd2");
    const title = plan.value?.blocks[later.block]?.label ?? "";
    if (later.block !== now) return title;
    if (later.phase === "swap") return later.label === title ? t("swap") : later.label;
    const phase = phaseWords(later.phase);
    return phase && later.label !== title ? `${phase}: ${later.label}` : (phase ?? later.label);
  });
  return {
    ...{ index, segment, block, left, following },
    /** What is asked where the clock waits: pulses that are written down, or children on the line. */
    waitsFor: computed(() => (segment.value?.phase === "write" ? t("allScoresIn") : t("ready"))),
    over: computed(
      () => state.value !== null && plan.value !== null && place.value >= plan.value.total_ms,
    ),
    /** Of the whole lesson, in thousandths: what a line of a screen's width can show. */
    share: computed(() => {
      const share = place.value / (plan.value?.total_ms ?? 1);
      return Math.round(Math.min(1, Math.max(0, share)) * 1000) / 1000;
    }),
  };
}
