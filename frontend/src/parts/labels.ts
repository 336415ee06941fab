/** Words over a lane that do not run into each other. */
export interface Label {
  x: number;
  words: string;
}

/** How wide a letter of the condensed face is at 15 px, and what stays free between two labels. */
const LETTER = 6.6;
const FREE = 8;

/**
 * Which labels have room on a lane of so many pixels: those nearest to `near` first, each kept
 * within the lane.
 */
export function placed(labels: Label[], width: number, near: number | null): Label[] {
  const order = [...labels].sort((a, b) =>
    near === null ? a.x - b.x : Math.abs(a.x - near) - Math.abs(b.x - near),
  );
  const taken: [number, number][] = [];
  const found: Label[] = [];
  for (const { x, words } of order) {
    const half = (words.length * LETTER) / 2;
    const middle = Math.min(Math.max(x, half), width - half);
    const [left, right] = [middle - half - FREE / 2, middle + half + FREE / 2];
    if (taken.some(([from, to]) => left < to && from < right)) continue;
    taken.push([left, right]);
    found.push({ x: middle, words });
  }
  return found;
}
