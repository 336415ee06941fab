/** The state of a class being captured: what the server knows overlaid with what is on its way. */
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { computed, onBeforeUnmount, ref } from "vue";
import { v4 as newId } from "uuid";
import { answer, client, type Schemas } from "../api/client";
import { now } from "../lessons/timeSource";
import { useOutbox, type Pending } from "./outbox";

export type Child = Schemas["Child"];
export type State = "empty" | "saved" | "saving" | "waiting" | "refused";

export interface CaptureRow {
  child: Child;
  state: State;
  /** What to show as the score: typed text on its way, or the score as judged. */
  shown: string;
  pending: Pending | null;
  variant: string;
  wave: number;
}

export function useCapture(activityId: string) {
  const outbox = useOutbox();
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

  const stop = outbox.onSaved((pending, child) => {
    if (pending.activityId !== activityId) return;
    queries.setQueryData<Schemas["ClassLanes"]>(key, (old) => {
      if (!old) return old;
      const scale = Math.max(child.lane.scale, ...old.children.map((one) => one.lane.scale));
      const children = old.children.map((one) => {
        const newer = one.pupil_id === child.pupil_id ? child : one;
        return newer.lane.scale === scale ? newer : { ...newer, lane: { ...newer.lane, scale } };
      });
      return { ...old, children };
    });
  });
  onBeforeUnmount(stop);

  const waiting = computed(() => {
    const found = new Map<string, Pending>();
    for (const entry of outbox.mine.value) {
      if (entry.activityId === activityId) found.set(entry.body.pupil_id, entry);
    }
    return found;
  });

  const rows = computed<CaptureRow[]>(() =>
    (board.value?.children ?? []).map((child) => {
      const pending = waiting.value.get(child.pupil_id) ?? null;
      const wave = waves.value.get(child.pupil_id) ?? pending?.body.wave ?? child.wave;
      if (pending) {
        const state: State = pending.refusal
          ? "refused"
          : outbox.sending.value === pending.body.id && !outbox.signedOut.value
            ? "saving"
            : "waiting";
        const shown = pending.body.withdrawn ? "" : (pending.body.typed ?? "");
        return { child, state, shown, pending, variant: pending.body.variant ?? "", wave };
      }
      const state: State = child.score ? "saved" : "empty";
      const estimate = child.score?.estimate ? " ~" : "";
      const shown = child.score ? child.score.shown + estimate : "";
      return { child, state, shown, pending: null, variant: child.variant, wave };
    }),
  );

  /** The entry that a new one for this child replaces. */
  function head(pupilId: string): string | null {
    const mine = outbox.mine.value.filter(
      (entry) =>
        entry.activityId === activityId && entry.body.pupil_id === pupilId && !entry.refusal,
    );
    const child = board.value?.children.find((one) => one.pupil_id === pupilId);
    return mine.at(-1)?.body.id ?? child?.head ?? null;
  }

  function put(
    pupilId: string,
    entry: Pick<Schemas["NewAttempt"], "typed" | "variant" | "wave" | "why" | "withdrawn">,
    succeeds = head(pupilId),
  ) {
    const refused = waiting.value.get(pupilId);
    if (refused?.refusal) outbox.dismiss(refused.body.id);
    outbox.put(activityId, {
      id: newId(),
      pupil_id: pupilId,
      recorded_at: new Date(now()).toISOString(),
      succeeds,
      ...entry,
    });
  }

  function setWave(pupilId: string, wave: number) {
    waves.value = new Map(waves.value).set(pupilId, wave);
  }

  return { query, board, rows, put, setWave, outbox };
}
