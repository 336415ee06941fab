/** What codes of a protocol are called on screen: the rules' own words. */
import { EFFORTS, KINDS } from "../api/vocabulary";

export const EFFORT: Record<string, string> = Object.fromEntries(
  EFFORTS.map((one) => [one.code, one.words]),
);
export function kindWords(kind: string, seconds: number | null): string {
  const words = KINDS.find((one) => one.code === kind)?.words ?? kind;
  if (!seconds) return words;
  return seconds % 60 === 0 && seconds > 60
    ? `${words}, ${seconds / 60} min`
    : `${words}, ${seconds} s`;
}
