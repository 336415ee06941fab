/**
 * A total over several movements as it is typed: c40+50+20e/10/5h by 0.5/1/2, with ~ when it is a
 * guess. Easier, usual and harder reps of a movement stand side by side.
 */
export type Levels = [easier: number, usual: number, harder: number];
export interface Parts {
  carried: number;
  reps: Levels[];
  /** What a rep of each level counts; none where each counts one. */
  weights?: string;
  guess?: boolean;
}
export const LETTERS = ["e", "u", "h"] as const;
const USUAL = 1;
const PLAIN = "1/1/1";

export function parts(typed: string): Parts {
  const found: Parts = { carried: 0, reps: [] };
  const guess = typed.trim().endsWith("~");
  const [counted = "", weights = ""] = typed.replace(/~\s*$/, "").split(/\s+by\s+/);
  for (const piece of counted.split("+").map((one) => one.trim())) {
    const carried = /^c\s*(\d+)$/i.exec(piece);
    if (carried) found.carried = Number(carried[1]);
    else if (piece) found.reps.push(levelsOf(piece));
  }
  return {
    ...found,
    ...(weights.trim() ? { weights: weights.trim() } : {}),
    ...(guess ? { guess } : {}),
  };
}
function levelsOf(piece: string): Levels {
  const levels: Levels = [0, 0, 0];
  for (const [, count, letter] of piece.matchAll(/(\d+)\s*([euh]?)/gi)) {
    levels[levelOf(letter)] += Number(count);
  }
  return levels;
}
function levelOf(letter: string | undefined): 0 | 1 | 2 {
  const at = LETTERS.findIndex((one) => one === letter?.toLowerCase());
  return (at < 0 ? USUAL : at) as 0 | 1 | 2;
}

/** Reps as they are added: "12", "-5", "20e/10/5h" or "20e 5h"; null for anything else. */
export function added(typed: string, apart: boolean): Levels | null {
  const levels: Levels = [0, 0, 0];
  for (const piece of typed.trim().split(/\s*\/\s*|\s+/)) {
    const read = /^([+-]?\d{1,4})([euh]?)$/i.exec(piece);
    if (!read || (read[2] && !apart)) return null;
    levels[levelOf(read[2])] += Number(read[1]);
  }
  return levels;
}

/** So many more (or fewer) of one movement; null when that would be less than none of a level. */
export function withReps(before: Parts, movement: number, more: Levels): Parts | null {
  const reps = before.reps.map((one): Levels => [...one]);
  while (reps.length <= movement) reps.push([0, 0, 0]);
  const [easier, usual, harder] = reps[movement] ?? [0, 0, 0];
  const sum: Levels = [easier + more[0], usual + more[1], harder + more[2]];
  if (sum.some((count) => count < 0)) return null;
  reps[movement] = sum;
  return { ...before, reps };
}

/** Reps of a movement, each counting one. */
export const plainly = (levels: Levels): number => levels[0] + levels[1] + levels[2];

/** What everything adds up to, as the rules do it: whole reps only. */
export function totalOf({ carried, reps, weights }: Parts): number {
  const hundredths = (weights ?? PLAIN).split("/").map((one) => Math.round(Number(one) * 100));
  const sum = reps.reduce(
    (all, levels) =>
      all + levels.reduce((own, count, level) => own + count * (hundredths[level] ?? 100), 0),
    0,
  );
  return carried + Math.floor(sum / 100);
}

/** The reps of one movement, its usual ones without a letter. */
export function levelsTyped(levels: Levels): string {
  const counts = levels
    .map((count, level) => (count ? `${count}${level === USUAL ? "" : LETTERS[level]}` : ""))
    .filter(Boolean);
  return counts.join("/") || "0";
}

export function asTyped({ carried, reps, weights, guess }: Parts): string {
  const sum = [...(carried ? [`c${carried}`] : []), ...reps.map(levelsTyped)].join("+");
  if (!sum) return "";
  const by = weights && weights !== PLAIN && reps.length ? ` by ${weights}` : "";
  return `${sum}${by}${guess ? "~" : ""}`;
}
