/** A total over several movements as it is typed: c40+50+0+60, with ~ when it is a guess. */
export interface Parts {
  carried: number;
  reps: number[];
  guess?: boolean;
}

export function parts(typed: string): Parts {
  const found: Parts = { carried: 0, reps: [] };
  for (const piece of typed.split("+").map((one) => one.trim())) {
    const read = /^(c?)(\d+)/i.exec(piece);
    if (!read) continue;
    if (read[1]) found.carried = Number(read[2]);
    else found.reps.push(Number(read[2]));
  }
  return typed.trim().endsWith("~") ? { ...found, guess: true } : found;
}

/** So many more (or fewer) of one movement; null when that would be less than none. */
export function withReps(before: Parts, movement: number, more: number): Parts | null {
  const reps = [...before.reps];
  while (reps.length <= movement) reps.push(0);
  const sum = (reps[movement] ?? 0) + more;
  if (sum < 0) return null;
  reps[movement] = sum;
  return { ...before, reps };
}

export function asTyped({ carried, reps, guess }: Parts): string {
  const sum = [...(carried ? [`c${carried}`] : []), ...reps.map(String)].join("+");
  return guess && sum ? `${sum}~` : sum;
}
