/** Compare an entry with what the rules handed over, so that the cursor need not wait. */
import { t } from "../messages/sheet";
import type { Schemas } from "../api/client";

export type Quick = Schemas["QuickCheck"];

/** null when the entry may be sent, otherwise what is wrong with it. */
export function quickProblem(typed: string, quick: Quick, reasons: string[]): string | null {
  const text = typed.trim();
  if (reasons.includes(text.toLowerCase())) return null;
  if (!new RegExp(`^(?:${quick.pattern})$`, "i").test(text))
    return t("typedIsNotAScore", { typed: text });
  const number = Number(text.replaceAll("~", ""));
  if (quick.highest != null && number > quick.highest) {
    return t("typedIsAboveTheMaximumOf", { typed: text });
  }
  if (quick.lowest != null && number < quick.lowest) {
    return t("typedIsBelowTheMinimumOf", { typed: text });
  }
  return null;
}
