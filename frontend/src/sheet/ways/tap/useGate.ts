/** A timing gate's lines, read by the rules and handed on as passages, each once. */
import { t } from "../../../messages/sheet";
import { useIntervalFn } from "@vueuse/core";
import { ref, watch, type Ref } from "vue";
import { answer, client } from "../../../api/client";
import { now } from "../../../parts/time/timeSource";
import type { GateSource } from "../../parts/devices";

export function useGate(
  activityId: string,
  source: GateSource,
  on: Ref<boolean>,
  startedAt: () => number | null,
  passed: (pupilId: string | null, ms: number) => void,
) {
  const lines = ref<string[]>([]);
  const passages = ref(0);
  const leftOut = ref<string[]>([]);
  const problem = ref("");
  /** How far the gate's clock was listened to, and how many of its lines were handed on. */
  let heard = 0;
  let done = 0;
  let listening = false;

  watch(on, (is) => {
    // What passed before it was switched on was tapped by hand.
    if (is) heard = Math.max(heard, Math.round(now() - (startedAt() ?? now())));
  });
  watch(startedAt, () => {
    lines.value = [];
    passages.value = heard = done = 0;
    leftOut.value = [];
  });

  async function listen() {
    const start = startedAt();
    if (!on.value || start === null || listening) return;
    listening = true;
    try {
      const until = Math.round(now() - start);
      const more = until > heard ? await source.lines(heard, until) : [];
      heard = until;
      if (more.length) lines.value.push(...more);
      if (done < lines.value.length) {
        const params = { path: { activity_id: activityId } };
        const body = { lines: lines.value };
        const read = await answer(
          client.POST("/api/activities/{activity_id}/gate", { params, body }),
        );
        for (const one of read.slice(done)) {
          if (one.at_ms !== null) {
            passages.value += 1;
            passed(one.pupil_id, one.at_ms);
          } else if (one.problem) leftOut.value = [...leftOut.value.slice(-2), one.problem];
        }
        done = read.length;
      }
      problem.value = "";
    } catch (error) {
      problem.value = t("lostContactWithTheGateProblem", { problem: (error as Error).message });
    } finally {
      listening = false;
    }
  }
  useIntervalFn(() => void listen(), 1_000);
  return { passages, leftOut, problem };
}
