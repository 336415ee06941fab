/**
 * Calls the cues of a conductor: sound ahead of time on the sound card's clock, words and voice when
 * they are due. What passed while the page was away is not called again.
 */
import { computed, onBeforeUnmount, ref, watch, type ComputedRef } from "vue";
import * as conductor from "./conductor";
import { playIn, speak, switched, turn } from "../../../parts/sound/sound";
import { useLitScreen } from "../../../parts/sound/useLitScreen";
import { useMoment } from "./useMoment";
import { useMusic } from "./useMusic";

/** Tones are handed to the sound card this long before they are due. */
const AHEAD_MS = 900;
/** A cue found later than this is shown, but no longer sounded. */
const STALE_MS = 1_500;

interface Called {
  plan: ComputedRef<conductor.Timeline | null>;
  state: ComputedRef<conductor.Conduct | null>;
  leading: ComputedRef<boolean>;
  record: (from: number, to: number) => void;
}

export function useCalls({ plan, state, leading, record }: Called) {
  const sound = ref(switched("sound", true));
  const voice = ref(switched("voice", false));
  watch(sound, (on) => turn("sound", on), { flush: "sync" });
  watch(voice, (on) => turn("voice", on), { flush: "sync" });
  const flash = ref("");
  const spoken = ref("");
  /** Screens that lead by being open, whether or not this device began it. */
  const openHere = ref(0);
  const calls = computed(() => leading.value || openHere.value > 0);
  const lock = useLitScreen();
  let heard: number | null = null;
  let heardRun = "";
  const ahead = new Map<number, () => void>();
  const music = useMusic();
  watch(plan, (made) => void music.fetch(made), { immediate: true });

  function hush() {
    music.stop();
    for (const takeBack of ahead.values()) takeBack();
    ahead.clear();
  }
  // A pause, a skip or a change of length: what was handed over no longer holds.
  watch(() => [state.value?.run_id, state.value?.revision, calls.value, sound.value], hush);

  function look(moment: number) {
    const one = state.value;
    if (!one || one.ended || one.paused_ms != null || !plan.value) return;
    const waits = conductor.isWaiting(plan.value, one, moment);
    // What is said where the clock waits is said when it goes on.
    const to = conductor.placeAt(plan.value, one, moment) - (waits ? 1 : 0);
    if (heardRun !== one.run_id || heard === null) {
      // Taken up after a reload: what has passed is not called again.
      heardRun = one.run_id;
      heard = to < 500 ? -1 : to;
    }
    if (to < heard) heard = to - 1; // went back
    if (calls.value) handOver(to);
    const cues = conductor.passed(plan.value, heard, to);
    const from = heard;
    heard = to;
    const cue = cues.at(-1);
    if (cue) call(cue, to);
    else if (flash.value && !conductor.passed(plan.value, to - 2_500, to).length) flash.value = "";
    if (calls.value) record(from, waits ? to + 1 : to);
    if (to >= plan.value.total_ms) lock.release();
  }
  function handOver(to: number) {
    if (!plan.value || !state.value) return;
    const stands = conductor.standsAt(plan.value, state.value) ?? Infinity;
    const end = Math.min(to + AHEAD_MS, stands - 1);
    music.follow(plan.value, to, end);
    for (const cue of conductor.passed(plan.value, to, end)) {
      if (ahead.has(cue.at_ms)) continue;
      const takeBack = playIn(cue.kind, cue.at_ms - to);
      if (takeBack) ahead.set(cue.at_ms, takeBack);
    }
  }
  function call(cue: conductor.Cue, to: number) {
    flash.value = ["last", "count", "go"].includes(cue.kind) ? "" : cue.say;
    spoken.value = cue.say;
    const late = to - cue.at_ms;
    const sounded = ahead.has(cue.at_ms);
    for (const at_ms of [...ahead.keys()]) if (at_ms <= to) ahead.delete(at_ms);
    if (calls.value && late < STALE_MS) {
      if (!sounded) playIn(cue.kind, 0);
      // A number on every beat would drown the next.
      if (cue.kind !== "last" && !/^\d+$/.test(cue.say)) speak(cue.say);
    }
    window.dispatchEvent(new CustomEvent("lauf-cue", { detail: { kind: cue.kind, late } }));
  }
  const at = useMoment(plan, state, look);
  onBeforeUnmount(() => {
    hush();
    lock.release();
  });

  return {
    at,
    sound,
    voice,
    flash,
    spoken,
    lock,
    openHere,
    place: computed(() =>
      state.value && plan.value ? conductor.placeAt(plan.value, state.value, at.value) : 0,
    ),
    /** The clock stands until somebody goes on. */
    waiting: computed(
      () => plan.value !== null && conductor.isWaiting(plan.value, state.value, at.value),
    ),
    /** After a jump nothing in between is called. */
    forget() {
      heard = null;
      flash.value = "";
      hush();
    },
  };
}
