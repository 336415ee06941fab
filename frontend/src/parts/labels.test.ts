import fc from "fast-check";
import { expect, test } from "vitest";
import { placed } from "./labels";

const LABELS = fc.array(
  fc.record({
    x: fc.double({ min: 0, max: 400, noNaN: true }),
    words: fc.string({ minLength: 1, maxLength: 14 }),
  }),
  { maxLength: 8 },
);

test("no two labels of a lane run into each other, and the one next to the score is there", () => {
  fc.assert(
    fc.property(LABELS, fc.double({ min: 0, max: 400, noNaN: true }), (labels, near) => {
      const found = placed(labels, 400, near);
      const ends = found
        .map(({ x, words }) => [x - words.length * 3.3, x + words.length * 3.3] as const)
        .sort((a, b) => a[0] - b[0]);
      for (let n = 1; n < ends.length; n += 1) {
        expect(ends[n]![0]).toBeGreaterThanOrEqual(ends[n - 1]![1]);
      }
      if (labels.length) {
        const nearest = Math.min(...labels.map(({ x }) => Math.abs(x - near)));
        const first = labels.find(({ x }) => Math.abs(x - near) === nearest)!;
        expect(found.some(({ words }) => words === first.words)).toBe(true);
      }
    }),
  );
});
