/** What codes of a protocol are called on screen. */
export const EFFORT: Record<string, string> = {
  rest: "at rest",
  low: "low effort",
  high: "high effort",
  maximal: "maximal effort",
};
export const KINDS: { code: string; words: string; units: string[] }[] = [
  { code: "count", words: "Count of reps", units: ["reps"] },
  { code: "time", words: "Time, held or taken", units: ["s"] },
  { code: "length", words: "Length", units: ["cm", "m", "mm"] },
  { code: "marks", words: "Difference of two marks", units: ["cm"] },
  { code: "offset", words: "Distance from zero, with a sign", units: ["cm"] },
  { code: "sides", words: "Yes or no, each side", units: ["sides"] },
  { code: "hits", words: "Hits out of N", units: ["hits"] },
  { code: "stage", words: "Stage and shuttle", units: ["shuttles"] },
  { code: "laps", words: "Laps and part of a lap", units: ["m"] },
  { code: "total", words: "Total over movements", units: ["reps"] },
  { code: "mass", words: "Weight", units: ["kg"] },
  { code: "pulse", words: "Pulse", units: ["bpm"] },
];
export const PLACES = ["hall", "playground", "grass"] as const;
export const TAGS = [
  "whole body",
  "legs",
  "push",
  "pull",
  "core",
  "flexibility",
  "balance",
  "skill",
  "aerobic",
];
export const MERGES = [
  { code: "best", words: "the best" },
  { code: "last", words: "the last" },
  { code: "mean", words: "the mean" },
  { code: "sum", words: "the sum" },
];
export function kindWords(kind: string, seconds: number | null): string {
  const words = KINDS.find((one) => one.code === kind)?.words ?? kind;
  if (!seconds) return words;
  return seconds % 60 === 0 && seconds > 60
    ? `${words}, ${seconds / 60} min`
    : `${words}, ${seconds} s`;
}
