/**
 * Clocks that are known to the server: of a wave, or of a way of taking scores that has its own.
 * Kept on this device at once and told by the engine, so that a reload or another device takes one
 * up where it is; whichever knows the newer state of a run is believed.
 */
import { useLocalStorage } from "@vueuse/core";
import { v4 as newId } from "uuid";
import { computed, onScopeDispose, ref, watch, type Ref } from "vue";
import { now } from "../parts/time/timeSource";
import { runLane } from "../sync/lane";
import { useSync } from "../sync/useSync";
import { useFrame } from "./frame";
import * as clock from "./run";

const keyOf = (activityId: string) => `lauf.clock.${activityId}`;

/** The clocks of an activity, with those that only this device knows yet. */
function allRuns(activityId: string, fromServer: clock.Run[]): clock.Run[] {
  let kept: clock.Run[] = [];
  try {
    kept = JSON.parse(localStorage.getItem(keyOf(activityId)) ?? "[]") as clock.Run[];
  } catch {
    // Cut off while it was written: the server knows the rest.
  }
  return clock.joinRuns(fromServer, kept);
}
/** The clock a time typed now was taken by: of an activity, the one that still runs. */
export function openRunOf(activityId: string, fromServer: clock.Run[]): string | null {
  return clock.openRun(allRuns(activityId, fromServer))?.id ?? null;
}

function useRuns(activityId: string, fromServer: Ref<clock.Run[]>) {
  const sync = useSync();
  const mine = useLocalStorage<clock.Run[]>(keyOf(activityId), []);
  const problem = ref("");
  const runs = computed(() => clock.joinRuns(fromServer.value, mine.value));

  function tell(run: clock.Run) {
    const id = runLane(run.id);
    void sync.put({ kind: "run", id, lane: id, at: activityId, body: run });
  }
  function keep(run: clock.Run) {
    mine.value = clock.joinRuns(mine.value, [run]);
    problem.value = "";
    tell(run);
  }
  // What an earlier page could not tell any more.
  for (const run of mine.value) {
    const known = fromServer.value.find((one) => one.id === run.id)?.revision ?? 0;
    if (run.revision > known) tell(run);
  }
  const stop = sync.onRefused((job, refusal) => {
    if (job.kind !== "run" || job.at !== activityId) return;
    // Another device's run counts: take over what the server knows.
    mine.value = mine.value.filter((one) => one.id !== job.body.id);
    problem.value = refusal.message;
  });
  onScopeDispose(stop);
  return { runs, keep, problem };
}

/** The newest clock of a way, or of one wave by it: which go, and which wave, it was at last. */
export function latestRun(
  activityId: string,
  fromServer: clock.Run[],
  way: clock.Run["way"],
  wave?: number | null,
) {
  return allRuns(activityId, fromServer).findLast(
    (run) => run.way === way && (wave === undefined || (run.wave ?? null) === wave),
  );
}

/** The clock of a way: hold and finish line, tally, beeps, target. */
export function useOwnRun(
  activity: () => { id: string; runs: clock.Run[] },
  way: clock.Run["way"],
  tryNumber: Ref<number> = ref(1),
  /** Who goes by it: a wave, or everybody together. */
  wave: Ref<number | null> = ref(null),
) {
  const kept = useRuns(
    activity().id,
    computed(() => activity().runs),
  );
  const frame = useFrame();
  const run = computed(() => clock.ownRun(kept.runs.value, way, tryNumber.value, wave.value));
  /** When its effort begins, in the time source's milliseconds; null before it was started. */
  const goAt = computed(() => (run.value ? run.value.anchor_ms + run.value.go_ms : null));

  return {
    run,
    goAt,
    problem: kept.problem,
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
    start(readyMs = 0, at = now()): number {
      frame.started();
      if (run.value) kept.keep(clock.end(run.value, "restarted", at, run.value.go_ms));
      const more = { way, try_number: tryNumber.value, go_ms: readyMs };
      kept.keep(clock.startRun(newId(), wave.value, at, more));
      return Math.round(at) + readyMs;
    },
    /** Nobody is timed by it any more. */
    stop() {
      const one = run.value;
      if (one && !one.ended) kept.keep(clock.end(one, "complete", now(), one.go_ms));
    },
  };
}
