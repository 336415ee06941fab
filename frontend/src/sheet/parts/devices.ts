/**
 * Where belts and gates come from. A source hands over what the device sent, as it sent it; the
 * rules read and check it, and what is taken goes the way of every typed entry. The demo has
 * stand-ins; a real device is another source.
 */
import { t } from "../../messages/sheet";
import { answer, client, type Schemas } from "../../api/client";

export type BeltMessage = Schemas["BeltMessage"];
export type BeltTrouble = "none" | "silent" | "contact" | "impossible" | "disagree";
export type GateTrouble = "none" | "doubled" | "unknown" | "garbled";

export interface BeltSource {
  /** The newest message of every belt that sends. */
  messages(): Promise<BeltMessage[]>;
}
export interface GateSource {
  /** The lines sent after `since` up to `until`, in milliseconds of the gate's clock. */
  lines(since: number, until: number): Promise<string[]>;
}

export const BELT_TROUBLES: { code: BeltTrouble; words: string }[] = [
  { code: "none", words: t("allWorking") },
  { code: "silent", words: t("someSendNothing") },
  { code: "contact", words: t("someHaveSlippedOff") },
  { code: "impossible", words: t("someSendImpossiblePulses") },
  { code: "disagree", words: t("someCountEverySecondBeat") },
];
export const GATE_TROUBLES: { code: GateTrouble; words: string }[] = [
  { code: "none", words: t("allWorking") },
  { code: "doubled", words: t("someRepeatAPassage") },
  { code: "unknown", words: t("someWithoutANumber") },
  { code: "garbled", words: t("someIncompleteLines") },
];

/** Simulated belts at an effort of 0 to 100 %. */
export function simulatedBelts(
  lessonId: string,
  effort: () => number,
  trouble: () => BeltTrouble,
): BeltSource {
  return {
    messages: () =>
      answer(
        client.GET("/api/stand-ins/belts/{lesson_id}", {
          params: {
            path: { lesson_id: lessonId },
            query: {
              second: Math.floor(Date.now() / 1000),
              effort: effort(),
              trouble: trouble(),
            },
          },
        }),
      ),
  };
}

/** A simulated gate across the lap. */
export function simulatedGate(activityId: string, trouble: () => GateTrouble): GateSource {
  return {
    async lines(since, until) {
      const answered = await answer(
        client.GET("/api/stand-ins/gate/{activity_id}", {
          params: {
            path: { activity_id: activityId },
            query: { since_ms: since, until_ms: until, trouble: trouble() },
          },
        }),
      );
      return answered.lines;
    },
  };
}
