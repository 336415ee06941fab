/** A list of people on its way in: what was given, what was put right, what would become of it. */
import { t } from "../messages/people";
import { useMutation, useQueryClient } from "@tanstack/vue-query";
import { watchDebounced } from "@vueuse/core";
import { computed, reactive, ref, watch } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { base64 } from "../parts/files/base64";
import { halfWay, rememberHalf } from "./listDraft";

export type Row = Schemas["ListRow"];
type Decision = string;

/** A list half-way through outlives a reload of its tab, until it is kept or somebody signs out. */
const NOTHING = { text: "", data: "", file_name: "" };

/** What can be answered about a list; the answers belong to that list only. */
const noAnswers = () => ({
  sheet: 0,
  columns: null as Schemas["ListPreview"]["columns"] | null,
  order: null as "day" | "month" | null,
  class_id: null as string | null,
  new_class: "",
  years: {} as Record<string, string>,
  decisions: {} as Record<string, Decision>,
});

export function useListImport() {
  const queries = useQueryClient();
  const half = halfWay();
  const given = reactive({ ...NOTHING, ...half?.given });
  /** What the person answered about it; a new list starts without answers. */
  const answers = reactive({ ...noAnswers(), ...half?.answers });
  const leavers = ref<string[]>(half?.leavers ?? []);
  watchDebounced(
    [given, answers, leavers],
    () => rememberHalf({ given, answers, leavers: leavers.value }),
    {
      debounce: 200,
      deep: true,
    },
  );
  const found = ref<Schemas["ListPreview"] | null>(null);
  const problem = ref("");
  const busy = ref(false);

  /** Another list starts without answers. */
  function begin(list: Partial<typeof given>) {
    Object.assign(answers, noAnswers());
    Object.assign(given, NOTHING, list);
    leavers.value = [];
  }
  async function choose(file: File | undefined) {
    if (!file) return;
    keeping.reset();
    begin({ data: await base64(file), file_name: file.name });
  }
  function paste(text: string) {
    keeping.reset();
    begin({ text });
  }

  const body = computed(() => ({ ...given, ...answers }));
  let asked = 0;
  async function look() {
    const mine = ++asked;
    problem.value = "";
    if (!given.text.trim() && !given.data) {
      found.value = null;
      busy.value = false;
      return;
    }
    busy.value = true;
    try {
      const preview = await answer(client.POST("/api/lists/preview", { body: body.value }));
      if (mine === asked) found.value = preview;
    } catch (error) {
      if (mine !== asked) return;
      found.value = null;
      problem.value = (error as Error).message;
    } finally {
      if (mine === asked) busy.value = false;
    }
  }
  // The preview no longer fits the answers, so nothing can be saved until it is fetched again.
  watch([given, answers], () => (busy.value = true), { deep: true, flush: "sync" });
  watchDebounced([given, answers], look, { debounce: 250, deep: true, immediate: half !== null });

  function setColumn(place: number, column: Schemas["ListPreview"]["columns"][number]) {
    const columns = [...(found.value?.columns ?? [])];
    columns[place] = column;
    answers.columns = columns;
  }

  /** What still has to be answered before it can be saved. */
  const open = computed(() => {
    const page = found.value;
    if (!page) return [];
    return [
      page.ask_order ? t("whetherTheDayOrTheMonth") : "",
      page.ask_class ? t("theClassForRowsWithoutOne") : "",
      page.ask_years.length
        ? t("theYearGroupOfClasses", { classes: page.ask_years.join(", ") })
        : "",
      page.counts.ask ? t("whatToDoWithTheRows") : "",
    ].filter(Boolean);
  });
  const effect = computed(() => {
    const counts = found.value?.counts ?? {};
    return (
      (counts.new ?? 0) + (counts.changed ?? 0) + (counts.moved ?? 0) + leavers.value.length > 0
    );
  });
  const keeping = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/lists", {
          body: {
            ...body.value,
            agreement: found.value?.agreement ?? "",
            leavers: leavers.value,
          },
        }),
      ),
    async onSuccess() {
      begin({});
      found.value = null;
      await queries.invalidateQueries();
    },
    onError: look,
  });

  return {
    ...{ given, answers, found, problem, busy, leavers, open, effect, keeping },
    ...{ choose, paste, setColumn },
  };
}
