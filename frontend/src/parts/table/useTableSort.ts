/** The order of a table's rows: a column's heading sorts up, then down, then back as they came. */
import { computed, shallowRef } from "vue";

type Cell = string | number | null | undefined;

export function useTableSort<Row, Column extends string>(
  rows: () => readonly Row[] | undefined,
  cells: Record<Column, (row: Row) => Cell>,
) {
  const by = shallowRef<{ column: Column; down: boolean } | null>(null);
  const text = new Intl.Collator("en-GB", { numeric: true, sensitivity: "base" });

  /** Rows without a value stand last, whichever way the column is sorted. */
  const sorted = computed(() => {
    const all = [...(rows() ?? [])];
    const order = by.value;
    if (!order) return all;
    const cell = cells[order.column];
    const isEmpty = (value: Cell) => value === null || value === undefined || value === "";
    return all.sort((first, second) => {
      const [a, b] = [cell(first), cell(second)];
      if (isEmpty(a) || isEmpty(b)) return Number(isEmpty(a)) - Number(isEmpty(b));
      const ahead =
        typeof a === "number" && typeof b === "number" ? a - b : text.compare(String(a), String(b));
      return order.down ? -ahead : ahead;
    });
  });

  function sortBy(column: Column): void {
    const now = by.value;
    if (now?.column !== column) by.value = { column, down: false };
    else by.value = now.down ? null : { column, down: true };
  }

  /** What `aria-sort` says of a column. */
  function directionOf(column: Column): "ascending" | "descending" | undefined {
    if (by.value?.column !== column) return undefined;
    return by.value.down ? "descending" : "ascending";
  }
  return { sorted, sortBy, directionOf };
}
