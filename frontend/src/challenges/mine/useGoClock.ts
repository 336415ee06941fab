/** A clock of a child's own for a test that takes so many seconds: three counts, the effort, the end. */
import { computed, onBeforeUnmount, ref } from "vue";
import { playIn, wake } from "../../parts/sound/sound";
import { now } from "../../parts/time/timeSource";
import { toNext, useLooks } from "../../parts/time/useLooks";

/** From the press to the start: time to get ready. */
export const READY_MS = 5_000;

export function useGoClock(seconds: () => number) {
  /** When the effort begins, in ms; null before a press of Start and after one of Stop. */
  const beginsAt = ref<number | null>(null);
  /** Milliseconds into the effort, as last looked at; below 0 before it. */
  const ms = ref(0);
  const lasts = computed(() => seconds() * 1000);
  const phase = computed(() => {
    if (beginsAt.value === null) return "still";
    if (ms.value < 0) return "ready";
    return ms.value < lasts.value ? "work" : "over";
  });
  let tones: ((() => void) | null)[] = [];

  function look() {
    if (beginsAt.value !== null) ms.value = now() - beginsAt.value;
  }
  useLooks(
    look,
    () => phase.value === "ready" || phase.value === "work",
    () => toNext(1000, ms.value),
  );
  function hush() {
    for (const takeBack of tones) takeBack?.();
    tones = [];
  }
  function start() {
    wake();
    hush();
    beginsAt.value = now() + READY_MS;
    ms.value = -READY_MS;
    tones = [3, 2, 1].map((n) => playIn("count", READY_MS - n * 1000));
    tones.push(playIn("go", READY_MS), playIn("stop", READY_MS + lasts.value));
  }
  function stop() {
    hush();
    beginsAt.value = null;
  }
  onBeforeUnmount(hush);

  return {
    phase,
    /** Whole seconds until the start, or left of the effort. */
    shows: computed(() => Math.ceil((ms.value < 0 ? -ms.value : lasts.value - ms.value) / 1000)),
    start,
    stop,
  };
}
