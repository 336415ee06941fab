/** What codes of a protocol are called on screen: the rules' own words. */
import { t } from "../messages/catalogue";
import { EFFORTS, KINDS, UNIT_SIZES } from "../api/vocabulary";

export const EFFORT: Record<string, string> = Object.fromEntries(
  EFFORTS.map((one) => [one.code, one.words]),
);
export function kindWords(kind: string, seconds: number | null): string {
  const words = KINDS.find((one) => one.code === kind)?.words ?? kind;
  if (!seconds) return words;
  return seconds % 60 === 0 && seconds > 60
    ? t("wordsMinutesMin", { words, minutes: seconds / 60 })
    : `${words}, ${seconds} s`;
}

/** One of a unit in canonical units: 1000 for s, 10 for cm, 1 for what is counted. */
export function unitSize(unit: string): number {
  return UNIT_SIZES.find((one) => one.code === unit)?.size ?? 1;
}

/** A guess to begin with where nobody was tested twice yet (our choice). */
const STARTING_SHARE = 0.08;
const STARTING_UNITS = 2;

/** Day-to-day variation of a new kind of test, in its own terms: a share of the score where noise
 * grows with it, and so many of its units otherwise. */
export function startingNoise(kind: string | undefined, unit: string | undefined) {
  const grows = KINDS.find((one) => one.code === kind)?.noise_grows ?? false;
  return {
    errors_by_age: [],
    error_share: grows ? STARTING_SHARE : null,
    default_typical_error: STARTING_UNITS * unitSize(unit ?? ""),
  };
}
