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

/** What can be said about a list: of another one nothing of it holds. */
const nothingSaid = () => ({
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
  /** What was said about it; a new list is begun anew. */
  const said = reactive({ ...nothingSaid(), ...half?.said });
  const leavers = ref<string[]>(half?.leavers ?? []);
  watchDebounced(
    [given, said, leavers],
    () => rememberHalf({ given, said, leavers: leavers.value }),
    {
      debounce: 200,
      deep: true,
    },
  );
  const found = ref<Schemas["ListPreview"] | null>(null);
  const problem = ref("");
  const busy = ref(false);

  /** Of another list nothing was said yet. */
  function begin(list: Partial<typeof given>) {
    Object.assign(said, nothingSaid());
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

  const body = computed(() => ({ ...given, ...said }));
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
  // What is shown is not what was said any more: nothing can be kept until it was read again.
  watch([given, said], () => (busy.value = true), { deep: true, flush: "sync" });
  watchDebounced([given, said], look, { debounce: 250, deep: true, immediate: half !== null });

  function setColumn(place: number, column: Schemas["ListPreview"]["columns"][number]) {
    const columns = [...(found.value?.columns ?? [])];
    columns[place] = column;
    said.columns = columns;
  }

  /** What still has to be said before it can be kept. */
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
    ...{ given, said, found, problem, busy, leavers, open, effect, keeping },
    ...{ choose, paste, setColumn },
  };
}
