/**
 * Looks at a clock while it runs, and only then: a screen drawn with every frame keeps a tablet busy
 * for a whole lesson.
 */
import { onBeforeUnmount, watch } from "vue";

/** The longest time between two looks: a clock set anew elsewhere shows by then. */
const LONGEST_MS = 100;
/** Timers set again and again are not served sooner. */
const SHORTEST_MS = 4;

/**
 * `look` at least ten times a second while the clock `runs`, and once when it begins or stands; at
 * the latest in `due` milliseconds, as of the look just taken.
 */
export function useLooks(look: () => void, runs: () => boolean, due = () => LONGEST_MS) {
  let timer: number | undefined;
  function lookIn(ms: () => number) {
    clearTimeout(timer);
    if (!runs()) return;
    // A part of a millisecond would be cut off: a look too early is one more, and late.
    const wait = Math.ceil(Math.min(LONGEST_MS, Math.max(SHORTEST_MS, ms())));
    timer = window.setTimeout(again, wait);
  }
  function again() {
    look();
    lookIn(due);
  }
  watch(runs, again, { immediate: true, flush: "sync" });
  onBeforeUnmount(() => clearTimeout(timer));
  /** The clock was set to something else: look as soon as whoever did it is through. */
  return { soon: () => lookIn(() => 0) };
}

/** Milliseconds until a clock that shows this shows its next whole unit. */
export function toNext(unit: number, shows: number): number {
  return unit - (((shows % unit) + unit) % unit);
}
