/** A lesson as one of its helpers has it: own entries, and where somebody else's stands. */
import { useQueryClient } from "@tanstack/vue-query";
import { answer, client, type Schemas } from "../../api/client";
import { t } from "../../messages/sheet";
import { now } from "../../parts/time/timeSource";
import { tryOf } from "../../sync/lane";
import type { Source } from "../types";
import { putIn } from "./putIn";

export type HelpedLesson = Schemas["HelpedLesson"];
export type HelpedTest = Schemas["HelpedTest"];
type HelpedEntry = Schemas["HelpedEntry"];

const KEY = ["help"];
export const helpPage = () => ({ queryKey: KEY, queryFn: () => answer(client.GET("/api/help")) });

/** The entry in its place; one that is empty again leaves nothing there. */
export function withEntry(lesson: HelpedLesson, at: string, entry: HelpedEntry): HelpedLesson {
  const isHere = (one: HelpedEntry) =>
    one.pupil_id === entry.pupil_id && one.try_number === entry.try_number;
  const tests = lesson.tests.map((test) =>
    test.activity_id === at
      ? { ...test, entries: [...test.entries.filter((one) => !isHere(one)), entry] }
      : test,
  );
  return { ...lesson, tests };
}

export function readingOf(activityId: string, typed: string): Promise<Schemas["Reading"]> {
  return answer(
    client.GET("/api/help/activities/{activity_id}/reading", {
      params: { path: { activity_id: activityId }, query: { typed } },
    }),
  );
}

export function useHelped(test: () => HelpedTest, nameOf: (pupilId: string) => string): Source {
  const queries = useQueryClient();
  const entryAt = (pupilId: string, slot: number) =>
    test().entries.find((one) => one.pupil_id === pupilId && one.try_number === slot);
  return {
    kept({ pupilId, at, slot }) {
      if (at !== test().activity_id) return null;
      const one = entryAt(pupilId, slot);
      const stands = Boolean(one?.mine && one.shown);
      return {
        head: one?.head ?? null,
        stands,
        typed: one?.typed ?? "",
        shown: stands ? (one?.shown ?? "") : "",
        variant: one?.variant ?? "",
      };
    },
    job: (place, entry) => ({
      kind: "helped",
      body: {
        id: "",
        pupil_id: place.pupilId,
        try_number: place.slot,
        typed: entry.typed,
        variant: entry.variant ?? "",
        withdrawn: false,
        recorded_at: entry.recorded_at ?? new Date(now()).toISOString(),
      },
    }),
    placeOf(job) {
      if (job.kind !== "helped" || job.at !== test().activity_id) return null;
      return { pupilId: job.body.pupil_id, at: job.at, slot: tryOf(job.body) };
    },
    take(job, answered) {
      const { entry } = answered as Schemas["EnteredAt"];
      putIn<HelpedLesson>(queries, KEY, (page) => withEntry(page, job.at, entry));
    },
    name: nameOf,
    announcementOf(_job, answered) {
      const { entry, beside, odd } = answered as Schemas["EnteredAt"];
      if (!entry.shown) return t("nothingNow");
      if (beside) return t("countedByTwo", { score: entry.shown });
      return odd ? t("isThisRight", { score: entry.shown }) : entry.shown;
    },
    questionsOf: () => null,
  };
}
