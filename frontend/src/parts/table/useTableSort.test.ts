import fc from "fast-check";
import { expect, it } from "vitest";
import { useTableSort } from "./useTableSort";

const ROWS = [
  { name: "Éva", points: 2 },
  { name: "Ann", points: null },
  { name: "ed", points: 10 },
];

function table() {
  const sort = useTableSort(() => ROWS, {
    name: (row) => row.name,
    points: (row) => row.points,
  });
  return { ...sort, names: () => sort.sorted.value.map((row) => row.name) };
}

it("sorts up, down and back as the rows came; a row without a value is last both ways", () => {
  const { names, sortBy, directionOf } = table();
  sortBy("points");
  expect([names(), directionOf("points")]).toEqual([["Éva", "ed", "Ann"], "ascending"]);
  sortBy("points");
  expect([names(), directionOf("points")]).toEqual([["ed", "Éva", "Ann"], "descending"]);
  sortBy("points");
  expect([names(), directionOf("points")]).toEqual([["Éva", "Ann", "ed"], undefined]);
});

it("reads names as people do, and another column begins anew", () => {
  const { names, sortBy, directionOf } = table();
  sortBy("points");
  sortBy("name");
  expect([names(), directionOf("points")]).toEqual([["Ann", "ed", "Éva"], undefined]);
});

it("loses and doubles no row, and leaves what it was given alone", () => {
  fc.assert(
    fc.property(
      fc.array(fc.option(fc.integer())),
      fc.array(fc.constant("cell")),
      (all, presses) => {
        const before = [...all];
        const { sorted, sortBy } = useTableSort(() => all, { cell: (value) => value });
        for (const column of presses) sortBy(column);
        expect([...sorted.value].sort()).toEqual([...all].sort());
        expect(all).toEqual(before);
      },
    ),
  );
});
