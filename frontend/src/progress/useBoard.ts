/** The class board: which days, what they are put beside, which tests and children, in which order. */
import { t } from "../messages/progress";
import { useQuery } from "@tanstack/vue-query";
import { computed, reactive } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { isoDay } from "../parts/words";

export type Board = Schemas["ClassBoard"];
export type BoardChild = Schemas["BoardChild"];
export type BoardCell = Schemas["BoardCell"];

export function useBoard(classId: string) {
  const wish = reactive({
    /** A term by its first day, "year" for the last twelve months, "" for the term of today. */
    days: "",
    /** The term by its first day that these days are put beside, "" for the score before. */
    beside: "",
    family: "",
    house: "",
    group: "",
    order: "list",
    hidden: false,
  });
  // The first page is asked for before there are terms to look in.
  const termOf = (starts: string) =>
    starts ? terms.value.find((one) => one.starts === starts) : undefined;
  const query = computed(() => {
    const [term, beside] = [termOf(wish.days), termOf(wish.beside)];
    return {
      ...(term ? { since: term.starts, until: term.ends } : {}),
      ...(wish.days === "year" ? { since: isoDay(-365) } : {}),
      ...(beside ? { beside_since: beside.starts, beside_until: beside.ends } : {}),
    };
  });
  const page = useQuery({
    queryKey: computed(() => ["board", classId, wish.days, wish.beside]),
    queryFn: () =>
      answer(
        client.GET("/api/classes/{class_id}/board", {
          params: { path: { class_id: classId }, query: query.value },
        }),
      ),
    placeholderData: (before: Board | undefined) => before,
  });
  const terms = computed((): Schemas["BoardTerm"][] => page.data.value?.terms ?? []);
  const board = page.data;
  const tests = computed(() => board.value?.tests ?? []);
  const families = computed(
    () => new Map(tests.value.map((one) => [one.family, one.family_words])),
  );
  const houses = computed(() => namesOf("house"));
  const groups = computed(() => namesOf("group"));
  function namesOf(what: "house" | "group"): string[] {
    const names = (board.value?.children ?? []).map((one) => one[what]).filter(Boolean);
    return [...new Set(names)].sort();
  }
  const columns = computed(() =>
    tests.value
      .map((test, at) => ({ test, at }))
      .filter(({ test }) => !wish.family || test.family === wish.family),
  );
  const children = computed(() => {
    const rows = (board.value?.children ?? []).filter(
      (one) =>
        (!wish.house || one.house === wish.house) && (!wish.group || one.group === wish.group),
    );
    if (wish.order === "name") rows.sort((a, b) => a.name.localeCompare(b.name));
    if (wish.order === "look") rows.sort((a, b) => looks(b) - looks(a));
    return rows;
  });
  return { wish, page, board, terms, families, houses, groups, columns, children };
}

/** How many notes of a child want a look: no praise, and nothing that was set aside. */
export const looks = (child: BoardChild): number =>
  child.notes.filter((one) => one.need !== "praise" && !one.aside).length;

/** What changed, by shape; the words stand beside it for the ear. */
const SHAPES: Record<string, [string, string]> = {
  better: ["▲", "better"],
  reached_the_top: ["▲", t("reachedTheMaximum")],
  moved_up: ["⇧", t("aHarderForm")],
  lower: ["▽", t("lowerThanBefore")],
  steady: ["=", "steady"],
  at_the_top: ["=", t("atTheMaximum2")],
};
export const shapeOf = (verdict: string): [string, string] | null => SHAPES[verdict] ?? null;
