/** The typing goes over every empty cell once, in its order, and never stands on a kept one. */
import fc from "fast-check";
import { ref } from "vue";
import { describe, expect, it } from "vitest";
import { useCursor, useFinder } from "./useCursor";

/** Rows of differing length: what is kept in them, by cell. */
const sheets = fc.record({
  rows: fc.array(fc.array(fc.boolean(), { minLength: 1, maxLength: 4 }), {
    minLength: 1,
    maxLength: 8,
  }),
  along: fc.boolean(),
});

function over(rows: boolean[][], along: boolean) {
  const kept = rows.map((row) => [...row]);
  const cursor = useCursor({
    rows: () => kept.length,
    columns: (row) => kept[row]?.length ?? 0,
    isEmpty: (row, column) => !kept[row]?.[column],
    along: ref(along),
  });
  return { kept, cursor };
}

describe("the cursor", () => {
  it("fills every empty cell once and then stands beside the sheet", () => {
    fc.assert(
      fc.property(sheets, ({ rows, along }) => {
        const { kept, cursor } = over(rows, along);
        const empty = rows.flat().filter((is) => !is).length;
        const filled: [number, number][] = [];
        cursor.first();
        while (!cursor.rested.value) {
          const [row, column] = [cursor.row.value, cursor.column.value];
          expect(kept[row]![column], "a kept score is not typed over").toBe(false);
          kept[row]![column] = true;
          filled.push([row, column]);
          cursor.next();
        }
        expect(filled.length).toBe(empty);
        const inTurn = [...filled].sort((a, b) =>
          along ? a[0] - b[0] || a[1] - b[1] : a[1] - b[1] || a[0] - b[0],
        );
        expect(filled).toEqual(inTurn);
      }),
    );
  });

  it("does not go back for what was left out, unless it is asked to", () => {
    const { kept, cursor } = over([[false], [false], [false]], false);
    cursor.go(2);
    cursor.next();
    expect(cursor.rested.value).toBe(true);
    kept[2]![0] = true;
    cursor.first();
    expect([cursor.rested.value, cursor.row.value]).toEqual([false, 0]);
  });

  it("stays on the sheet wherever it is sent, and every move is told of", () => {
    const { cursor } = over([[false, false], [false]], true);
    cursor.go(9, 9);
    expect([cursor.row.value, cursor.column.value]).toEqual([1, 0]);
    cursor.go(-1, 1);
    expect([cursor.row.value, cursor.column.value]).toEqual([0, 1]);
    cursor.rest();
    cursor.go(0);
    expect(cursor.rested.value).toBe(false);
    expect(cursor.moves.value).toBe(4);
  });
});

describe("finding a child", () => {
  const names = ["Ada Birch", "Ben Ash", "Mary-Ann Oak", "Ashwin Elm"];
  it.each([
    ["as", ["Ben Ash", "Ashwin Elm"]],
    ["ANN", ["Mary-Ann Oak"]],
    [" ", []],
    ["x", []],
  ])("by %j", (letters, found) => {
    const finder = useFinder(() => names);
    finder.letters.value = letters;
    expect(finder.matches.value.map((one) => names[one.index])).toEqual(found);
    expect(finder.matches.value.map((one) => one.name)).toEqual(found);
  });
});
