/** A plan as it is drawn up: every change is kept at once, one at a time, and can be undone. */
import { t } from "../../messages/lessons";
import { useQuery, useQueryClient } from "@tanstack/vue-query";
import { until, useDebounceFn, useEventListener, useManualRefHistory } from "@vueuse/core";
import { computed, ref, watch } from "vue";
import { onBeforeRouteLeave } from "vue-router";
import { answer, client, type Schemas } from "../../api/client";
import { ask } from "../../parts/form/ask";
import { fresh, typeOf, type Entry } from "./blocks";
import { movementWithPulse, withChanged } from "./pulsesOfMovements";

export type Page = Schemas["PlanPage"];
const MOST_UNDONE = 40;

/** The blocks of a plan as they are sent back. */
export const entriesOf = (page: Page): Entry[] => page.blocks.map((one) => one.entry);

export const planPage = (lessonId: string) => ({
  queryKey: ["plan", lessonId],
  queryFn: () =>
    answer(
      client.GET("/api/lessons/{lesson_id}/plan", { params: { path: { lesson_id: lessonId } } }),
    ),
  staleTime: Infinity,
});

export function usePlan(lessonId: string) {
  const params = { path: { lesson_id: lessonId } };
  const queries = useQueryClient();
  const query = useQuery(planPage(lessonId));
  const page = ref<Page | null>(null);
  const draft = ref<Entry[]>([]);
  const past = useManualRefHistory(draft, { capacity: MOST_UNDONE });
  const open = ref<number | null>(null);
  const problem = ref("");
  const saving = ref(false);
  const unsaved = ref(false);

  watch(
    () => query.data.value,
    (found) => {
      if (!found || page.value) return;
      page.value = found;
      draft.value = entriesOf(found);
    },
    { immediate: true },
  );
  /** What the server says of each block: nothing yet of a test that is still to be chosen. */
  const rows = computed(() => {
    let at = 0;
    let place = 0;
    return draft.value.map((one) => {
      const block = isWhole(one) ? page.value?.blocks[place] : undefined;
      const row = { block, start: at, warnings: block ? warningsOf(place) : [] };
      if (block) place += 1;
      at += block?.seconds ?? 0;
      return row;
    });
  });
  const share = computed(() =>
    page.value ? Math.min(1.25, page.value.total_seconds / (page.value.minutes * 60)) : 0,
  );
  function warningsOf(index: number) {
    return page.value?.warnings.filter((one) => one.block === index) ?? [];
  }

  /** A test block is kept once its test is chosen; one that is closed has its own. */
  function isWhole(one: Entry) {
    return one.kind !== "test" || Boolean(one.test_id) || Boolean(one.closed);
  }
  const whole = computed(() => draft.value.every(isWhole));
  /** Keep the plan as it stands. One at a time: what was changed meanwhile is sent after it. */
  async function send() {
    if (!page.value || saving.value || !unsaved.value || !whole.value) return;
    saving.value = true;
    let kept: Page = page.value;
    try {
      // eslint-disable-next-line @typescript-eslint/no-unnecessary-condition -- more is changed while it waits
      while (unsaved.value && whole.value) {
        const sent = draft.value;
        const body = { based_on: kept.revision, blocks: sent };
        kept = await answer(client.PUT("/api/lessons/{lesson_id}/plan", { params, body }));
        page.value = kept;
        queries.setQueryData(["plan", lessonId], kept);
        if (draft.value !== sent) continue;
        // What the server has made of it: the id of a new block, the activity of a new test.
        draft.value = sent.map((one, index) => ({
          ...one,
          id: kept.blocks[index]?.entry.id ?? null,
          activity_id: kept.blocks[index]?.entry.activity_id ?? null,
        }));
        unsaved.value = false;
      }
      problem.value = "";
      await queries.invalidateQueries({ queryKey: ["timeline", lessonId] });
      await queries.invalidateQueries({ queryKey: ["lesson", lessonId] });
    } catch (error) {
      problem.value = (error as Error).message;
    } finally {
      saving.value = false;
    }
    // What was changed while other pages were told goes out as well: nothing else would send it.
    if (unsaved.value && !problem.value) await send();
  }
  const keep = useDebounceFn(send, 450);
  useEventListener(window, "beforeunload", (event) => {
    if (unsaved.value) event.preventDefault();
  });
  /** Going to another screen waits a moment for the last change, and leaves none behind unasked. */
  onBeforeRouteLeave(async () => {
    void send();
    await until(saving).toBe(false, { timeout: 3_000 });
    return (
      !unsaved.value ||
      ask({
        title: t("leaveWithoutSavingTheLastChange"),
        words: t("itIsNotSavedYetLauf"),
        yes: t("leave"),
      })
    );
  });

  /** Every change goes through here, so that every change can be undone. */
  function change(blocks: Entry[]) {
    // As it stands: with the ids that the server has given since.
    past.last.value = { ...past.last.value, snapshot: draft.value };
    draft.value = blocks;
    past.commit();
    unsaved.value = true;
    void keep();
  }
  function undo() {
    if (!past.canUndo.value) return;
    past.undo();
    unsaved.value = true;
    void keep();
  }
  function move(from: number, to: number) {
    if (to < 0 || to >= draft.value.length || from === to) return;
    const blocks = [...draft.value];
    const [one] = blocks.splice(from, 1);
    if (one) blocks.splice(to, 0, one);
    if (open.value === from) open.value = to;
    change(blocks);
  }
  function add(kind: Entry["kind"]) {
    put([fresh(kind)]);
  }
  function put(made: Entry[]) {
    const blocks = [...draft.value];
    const isLast = (one: Entry) => typeOf(one.kind).closing;
    // A cool-down and what follows it stay at the end.
    const tail = blocks.findIndex(isLast);
    const place = made.some(isLast) || tail < 0 ? blocks.length : tail;
    blocks.splice(place, 0, ...made);
    open.value = place;
    change(blocks);
  }
  function replace(index: number, one: Entry) {
    change(withChanged(draft.value, index, one));
  }
  function remove(index: number) {
    open.value = null;
    change(draft.value.filter((_, place) => place !== index));
  }

  return {
    ...{ query, page, draft, rows, share, warningsOf, whole, open, problem, saving, unsaved },
    ...{ send, change, undo, move, add, replace, remove },
    addWithPulse: () => put(movementWithPulse()),
    canUndo: past.canUndo,
  };
}
export type Plan = ReturnType<typeof usePlan>;
