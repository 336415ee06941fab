/** The state of a class being captured: what the server knows overlaid with what is on its way. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, onBeforeUnmount, ref } from "vue";
import { v4 as newId } from "uuid";
import { answer, client, type Schemas } from "../api/client";
import { useOpenRun } from "../lessons/useLesson";
import { now } from "../parts/timeSource";
import { useOutbox, type Pending } from "./outbox";

export type Child = Schemas["Child"];
export type State = "empty" | "saved" | "saving" | "waiting" | "refused";
export type Conditions = NonNullable<Schemas["NewAttempt"]["conditions"]>;

/** One try of a child: what was typed on its way, or the score as kept. */
export interface TryCell {
  number: number;
  state: State;
  shown: string;
  pending: Pending | null;
  score: Schemas["Score"] | null;
}

export interface CaptureRow {
  child: Child;
  /** The worst state of its tries, so that nothing unsent looks done. */
  state: State;
  /** What to show as the score: typed text on its way, or the score that counts. */
  shown: string;
  tries: TryCell[];
  /** The refused entry that somebody has to settle, if any. */
  refused: Pending | null;
  variant: string;
  wave: number;
}

type Entry = Pick<Schemas["NewAttempt"], "typed" | "variant" | "wave" | "why" | "withdrawn"> & {
  conditions?: Conditions;
  /** The partner who said it. */
  counted_by?: string | null;
  /** The clock it was taken by, where it is not the one that is open. */
  run_id?: string | null;
  /** It is right, whatever the clock says. */
  sure?: boolean;
};

const ORDER: State[] = ["refused", "waiting", "saving", "saved", "empty"];

export function useCapture(activityId: string) {
  const outbox = useOutbox();
  const openRun = useOpenRun();
  const queries = useQueryClient();
  const key = ["lanes", activityId];
  const query = useQuery({
    queryKey: key,
    queryFn: () =>
      answer(
        client.GET("/api/activities/{activity_id}/lanes", {
          params: { path: { activity_id: activityId } },
        }),
      ),
    // Another device's scores appear by themselves.
    refetchInterval: () => (outbox.waiting.value ? false : 20_000),
  });
  const board = query.data;
  /** The wave set by hand, where it differs from the suggestion and nothing is entered yet. */
  const waves = ref(new Map<string, number>());

  function take(child: Child) {
    queries.setQueryData<Schemas["ClassLanes"]>(key, (old) => {
      if (!old) return old;
      const lanes = [child.lane, ...old.children.map((one) => one.lane)];
      const scale = Math.max(...lanes.map((lane) => lane.scale));
      const origin = Math.min(...lanes.map((lane) => lane.origin));
      const children = old.children.map((one) => {
        const newer = one.pupil_id === child.pupil_id ? child : one;
        const fits = newer.lane.scale === scale && newer.lane.origin === origin;
        return fits ? newer : { ...newer, lane: { ...newer.lane, scale, origin } };
      });
      return { ...old, children };
    });
  }

  const stop = outbox.onSaved((pending, child) => {
    if (pending.at === activityId) take(child as Child);
  });
  onBeforeUnmount(stop);

  const waiting = computed(() => {
    const found = new Map<string, Pending>();
    for (const entry of outbox.mine.value) {
      if (entry.at === activityId) found.set(place(entry.body), entry);
    }
    return found;
  });

  function place(body: Schemas["NewAttempt"]): string {
    return `${body.pupil_id} ${body.try_number ?? 1}`;
  }

  function tryCell(child: Child, number: number, score: Schemas["Score"] | null): TryCell {
    const pending = waiting.value.get(`${child.pupil_id} ${number}`) ?? null;
    if (!pending) {
      const estimate = score?.estimate ? " ~" : "";
      const shown = score ? score.shown + estimate : "";
      return { number, state: score ? "saved" : "empty", shown, pending, score };
    }
    const state = outbox.stateOf(pending);
    const shown = pending.body.withdrawn ? "" : (pending.body.typed ?? "");
    return { number, state, shown, pending, score };
  }

  const rows = computed<CaptureRow[]>(() =>
    (board.value?.children ?? []).map((child) => {
      const tries = child.tries.map((one) => tryCell(child, one.number, one.score ?? null));
      const onItsWay = tries.findLast((one) => one.pending)?.pending ?? null;
      const state = ORDER.find((one) => tries.some((cell) => cell.state === one)) ?? "empty";
      const single = tries.length === 1;
      const estimate = child.score?.estimate ? " ~" : "";
      const merged = child.score ? child.score.shown + estimate : "";
      return {
        child,
        state: state === "empty" && child.score ? "saved" : state,
        shown: single ? (tries[0]?.shown ?? "") : merged,
        tries,
        refused: tries.find((one) => one.pending?.refusal)?.pending ?? null,
        variant: onItsWay?.body.variant ?? child.variant,
        wave: waves.value.get(child.pupil_id) ?? onItsWay?.body.wave ?? child.wave,
      };
    }),
  );

  /** The entry that a new one for this child and try replaces. */
  function head(pupilId: string, tryNumber: number): string | null {
    const mine = outbox.newest(
      "attempt",
      activityId,
      (body) => body.pupil_id === pupilId && (body.try_number ?? 1) === tryNumber,
    );
    const child = board.value?.children.find((one) => one.pupil_id === pupilId);
    const known = child?.tries.find((one) => one.number === tryNumber)?.head;
    return mine ?? known ?? null;
  }

  function put(pupilId: string, tryNumber: number, entry: Entry, succeeds?: string | null) {
    const refused = waiting.value.get(`${pupilId} ${tryNumber}`);
    if (refused?.refusal) outbox.dismiss(refused.body.id);
    outbox.put("attempt", activityId, {
      id: newId(),
      pupil_id: pupilId,
      try_number: tryNumber,
      recorded_at: new Date(now()).toISOString(),
      succeeds: succeeds === undefined ? head(pupilId, tryNumber) : succeeds,
      conditions: {},
      counted_by: null,
      run_id: openRun(activityId, board.value?.kind),
      sure: false,
      ...entry,
    });
  }

  /** A refused entry sent again as it is meant: another reading of it, or "it is right". */
  function again(one: CaptureRow, change: { typed?: string; sure?: boolean }) {
    const body = one.refused?.body;
    if (!body) return;
    const {
      typed = "",
      variant = "",
      wave = null,
      why = "",
      conditions,
      counted_by,
      run_id,
    } = body;
    put(one.child.pupil_id, body.try_number ?? 1, {
      ...{ typed, variant, wave, why, conditions, counted_by, run_id },
      ...change,
      withdrawn: false,
    });
  }

  /** The teacher looked: the score stands as it is. */
  async function confirmFlags(child: Child) {
    let newest: Child | null = null;
    for (const flag of child.flags.filter((one) => !one.settled && one.code !== "estimate")) {
      newest = await answer(
        client.POST("/api/attempts/{attempt_id}/confirm", {
          params: { path: { attempt_id: child.score?.id ?? "" } },
          body: { flag: flag.code },
        }),
      );
    }
    if (newest) take(newest);
  }

  function setWave(pupilId: string, wave: number) {
    waves.value = new Map(waves.value).set(pupilId, wave);
  }

  return { query, board, rows, put, again, setWave, confirmFlags, outbox };
}
