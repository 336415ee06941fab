/** The rules that give points, in the order they are shown. */
export const RULES = [
  { code: "took_part", words: "took part" },
  { code: "beat_own_best", words: "beat the own best" },
  { code: "reached_rung", words: "reached a new rung" },
  { code: "beat_rival", words: "beat the rival" },
] as const;
