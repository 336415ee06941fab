/**
 * The clock of a way of taking scores that has its own: hold and finish line, tally, beeps, target.
 * It is a run like any other, known to the server, so that a reload or another device takes it up.
 */
import { v4 as newId } from "uuid";
import { computed, onBeforeUnmount, watch, type Ref } from "vue";
import * as clock from "./clock";
import { useLesson } from "./useLesson";
import { useRuns } from "./useRuns";
import { now } from "../parts/timeSource";

export function useOwnClock(way: clock.Run["way"], tryNumber?: Ref<number>) {
  const { activity } = useLesson();
  const kept = useRuns(
    activity().id,
    computed(() => activity().runs),
  );
  const run = computed(() => clock.ownRun(kept.runs.value, way, tryNumber?.value ?? 1));
  /** When its effort begins, in the time source's milliseconds; null before it was started. */
  const goAt = computed(() => (run.value ? run.value.anchor_ms + run.value.go_ms : null));
  onBeforeUnmount(kept.end);

  return {
    run,
    goAt,
    /** One that was begun on another device is this one's too: `take` its go where it is not `mine`. */
    follow(mine: () => number | null, take: (goAt: number) => void) {
      watch(
        [goAt, run],
        ([at, one]) => {
          if (at !== null && one && !one.ended && at !== mine()) take(at);
        },
        { immediate: true },
      );
    },
    /** Begin, after so many milliseconds to get ready; one that ran is started again. */
    start(readyMs = 0): number {
      const at = now();
      if (run.value) kept.keep(clock.end(run.value, "restarted", at, run.value.go_ms));
      const more = { way, try_number: tryNumber?.value ?? 1, go_ms: readyMs };
      kept.keep(clock.startRun(newId(), null, at, more));
      return Math.round(at) + readyMs;
    },
    /** Nobody is timed by it any more. */
    stop() {
      const one = run.value;
      if (one && !one.ended) kept.keep(clock.end(one, "complete", now(), one.go_ms));
    },
  };
}
