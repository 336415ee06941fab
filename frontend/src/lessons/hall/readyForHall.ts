/** Lessons that are on this device before there is no network: all that their hall reads. */
import type { QueryClient } from "@tanstack/vue-query";
import { useLocalStorage } from "@vueuse/core";
import { ref } from "vue";
import { answer, client } from "../../api/client";
import { checkPage } from "../../progress/checkPage";
import { aimsPage } from "../../sheet/sources/aims";
import { fetchBattery } from "../../sheet/sources/battery";
import { fetchLanes } from "../../sheet/sources/lanes";
import { pulsePage } from "../../sheet/sources/pulse";
import { rivalsPage } from "../../sheet/sources/rivals";
import { beepsPage } from "../../sheet/ways/beeps/useBeeps";
import { targetPage } from "../../sheet/ways/target/useTarget";
import { flushPages, READY, SPARES } from "../../sync/useKeptPages";
import { planPage } from "../plan/usePlan";
import { fetchSpares, sparesPage } from "../spares";
import { lessonPage } from "../useLesson";
import { resultsPage } from "../useResults";
import { timelinePage } from "./clock/useConductor";

/** What was read less long ago is not read again. */
const FRESH_MS = 300_000;
const MOST_LESSONS = 40;

const coursesPage = {
  queryKey: ["courses"],
  queryFn: () => answer(client.GET("/api/courses")),
};
/** What a new lesson is chosen from. */
const testsPage = { queryKey: ["tests"], queryFn: () => answer(client.GET("/api/tests")) };
const classesPage = { queryKey: ["classes"], queryFn: () => answer(client.GET("/api/classes")) };

/** Reads a lesson, one page after the other: whoever takes scores meanwhile comes first. */
async function fetchLesson(queries: QueryClient, lessonId: string): Promise<void> {
  const has = <T>(page: { queryKey: string[]; queryFn: () => Promise<T> }) =>
    queries.query({ ...page, staleTime: FRESH_MS });
  const lesson = await has(lessonPage(lessonId));
  for (const page of [timelinePage, planPage, resultsPage]) await has(page(lessonId) as never);
  await has(pulsePage(lessonId, "tanaka"));
  // Who looks at a body measurement is on record: nobody does before it is opened.
  const open = lesson.activities.filter((one) => !one.private);
  for (const { id, kind } of open) {
    await fetchLanes(queries, id);
    await has(aimsPage(id));
    await has(rivalsPage(id));
    await has(checkPage(id));
    if (kind === "stage") await has(beepsPage(id));
    if (kind === "total") await has(targetPage(id, () => 0));
  }
  if (open.length > 1 && open.length === lesson.activities.length)
    await fetchBattery(queries, lessonId);
}

export function useReadyForHall(queries: QueryClient) {
  /** Lessons whose pages are here, by id: also after a reload without network. */
  const here = useLocalStorage<string[]>(READY, []);
  /** The classes a lesson can be begun with here, by name. */
  const spares = useLocalStorage<string[]>(SPARES, []);
  const isFetching = ref(false);
  const failed = ref(false);

  /** Has these lessons on this device; those that could not be read are tried again next time. */
  async function fetchAll(lessonIds: string[]): Promise<void> {
    if (isFetching.value) return;
    isFetching.value = true;
    failed.value = false;
    try {
      for (const page of [coursesPage, testsPage, classesPage])
        await queries.query({ ...page, staleTime: FRESH_MS } as never);
      for (const id of lessonIds) {
        await fetchLesson(queries, id);
        await flushPages();
        here.value = [...here.value.filter((one) => one !== id), id].slice(-MOST_LESSONS);
      }
    } catch {
      failed.value = true;
    } finally {
      isFetching.value = false;
    }
    if (!failed.value) await fetchOthers().catch(() => undefined);
  }
  let others: Promise<void> | null = null;
  /** Lessons that may be begun here, after those that are planned: nobody waits for them. */
  function fetchOthers(): Promise<void> {
    others ??= (async () => {
      await fetchSpares(queries);
      const rows = await queries.query({ ...sparesPage, staleTime: FRESH_MS });
      spares.value = [...new Set(rows.map((one) => one.class_name))];
    })().finally(() => (others = null));
    return others;
  }
  return { here, spares, isFetching, failed, fetchAll };
}
