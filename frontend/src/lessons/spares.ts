/**
 * Lessons that can be begun without a network. Of each class and the tests it did last, this device
 * has every page the hall reads, as of a lesson with that test; begun, they get ids of this device.
 */
import type { QueryClient } from "@tanstack/vue-query";
import { answer, client, type Schemas } from "../api/client";
import { checkPage } from "../progress/checkPage";
import { aimsPage } from "../sheet/sources/aims";
import { lanesKey } from "../sheet/sources/pages";
import { pulsePage } from "../sheet/sources/pulse";
import { rivalsPage } from "../sheet/sources/rivals";
import { beepsPage } from "../sheet/ways/beeps/useBeeps";
import { targetPage } from "../sheet/ways/target/useTarget";
import type { BegunLesson } from "../sync/jobs";
import { lessonLane } from "../sync/lane";
import { flushPages, keptPage } from "../sync/useKeptPages";
import { useSync } from "../sync/useSync";
import { timelinePage } from "./hall/clock/useConductor";
import { planPage } from "./plan/usePlan";
import { lessonPage } from "./useLesson";
import { resultsPage } from "./useResults";

type Spare = Schemas["SpareLesson"];

/** A spare lesson is read again after so long. */
const DAY_MS = 86_400_000;

export const sparesPage = {
  queryKey: ["spares"],
  queryFn: () => answer(client.GET("/api/spares")),
};
const spareKey = (classId: string, testId: string) => ["spare", classId, testId];

/** Has every spare lesson on this device, one after the other. */
export async function fetchSpares(queries: QueryClient): Promise<void> {
  for (const { class_id, test_id } of await queries.query({ ...sparesPage, staleTime: DAY_MS })) {
    const queryKey = spareKey(class_id, test_id);
    const held = await keptPage(queryKey);
    if (held && held.at > Date.now() - DAY_MS) continue;
    await queries.query({
      queryKey,
      queryFn: () =>
        answer(
          client.GET("/api/spares/{class_id}/{test_id}", {
            params: { path: { class_id, test_id } },
          }),
        ),
    });
    await flushPages();
    // It is on the device; in memory it is of no use until it is begun.
    queries.removeQueries({ queryKey, exact: true });
  }
}

/** The classes and tests a lesson can be begun with on this device. */
export async function sparesHere(): Promise<Schemas["SpareRow"][]> {
  return ((await keptPage(sparesPage.queryKey))?.data ?? []) as Schemas["SpareRow"][];
}

/** A spare lesson under this device's ids, at the time and place of the lesson that is begun. */
export function asBegun(spare: Spare, body: BegunLesson): Spare {
  const ids = [spare.lesson.id, ...spare.lesson.activities.map((one) => one.id)];
  const own = [body.id, ...body.activity_ids];
  const text = ids.reduce(
    (words, id, at) => words.replaceAll(id, own[at] ?? id),
    JSON.stringify(spare),
  );
  const begun = JSON.parse(text) as Spare;
  const { starts_at, minutes, place } = body;
  return { ...begun, lesson: { ...begun.lesson, starts_at, minutes, place } };
}

/**
 * Begin a lesson with one test on this device; it is sent before anything that is taken in it. False
 * where its pages are not here.
 */
export async function beginHere(queries: QueryClient, body: BegunLesson): Promise<boolean> {
  const [testId, another] = body.test_ids;
  const [activityId] = body.activity_ids;
  if (!testId || !activityId || another) return false;
  const held = await keptPage(spareKey(body.class_id, testId));
  if (!held) return false;
  const spare = asBegun(held.data as Spare, body);
  const { id } = body;
  const pages: [readonly unknown[], unknown][] = [
    [lessonPage(id).queryKey, spare.lesson],
    [timelinePage(id).queryKey, spare.timeline],
    [planPage(id).queryKey, spare.plan],
    [resultsPage(id).queryKey, spare.results],
    [pulsePage(id, "tanaka").queryKey, spare.pulse],
    [lanesKey(activityId), spare.lanes],
    [aimsPage(activityId).queryKey, spare.aims],
    [rivalsPage(activityId).queryKey, spare.rivals],
    [checkPage(activityId).queryKey, spare.check],
    [beepsPage(activityId).queryKey, spare.beeps],
    [targetPage(activityId, () => 0).queryKey, spare.target],
  ];
  for (const [key, page] of pages) if (page) queries.setQueryData(key, page);
  await flushPages();
  await useSync().put({
    ...{ kind: "lesson", id, at: id, lane: lessonLane(id), body },
    label: { child: spare.lesson.class_name, page: `/lessons/${id}/hall` },
    shown: spare.lesson.activities.map((one) => one.test).join(", "),
  });
  return true;
}
