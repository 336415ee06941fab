/**
 * The one model of taking scores: what stands in every cell, writes, and one undo that restores
 * exactly what stood before. Every way of taking scores is a template over it.
 */
import { t } from "../messages/sheet";
import { useMutation } from "@tanstack/vue-query";
import { computed, onScopeDispose, ref, shallowReactive, type ComputedRef } from "vue";
import { v4 as newId } from "uuid";
import type { Job, Refusal } from "../sync/jobs";
import type { Engine } from "../sync/engine";
import { laneOf } from "../sync/lane";
import { useSync } from "../sync/useSync";
import { useHistory } from "./frame";
import {
  isSame,
  keyOf,
  type Cell,
  type Change,
  type Entry,
  type Place,
  type Question,
  type Source,
  type Step,
  type Text,
} from "./types";

/** Where somebody goes to settle an entry that was made on this page. */
function pageOf({ at }: Place, kind: Job["kind"]): string {
  const lesson = /^\/lessons\/[^/]+/.exec(
    (globalThis.location as Location | undefined)?.pathname ?? "",
  )?.[0];
  if (!lesson) return "";
  return kind === "pulse" ? `${lesson}/hall?block=pulses` : `${lesson}/hall?activity=${at}`;
}

const NOTHING = { head: null, stands: false, typed: "", shown: "", variant: "" };

export function useSheet(source: Source, sync: Engine = useSync()) {
  const { steps, again } = useHistory();
  const asked = shallowReactive(new Map<string, Question>());
  /** What the last press did, for the eye and the screen reader. */
  const announcement = ref("");
  const problem = ref("");
  /** What the last press kept: its answer is said, an older one's no more. */
  let newest: string[] = [];
  let newestTests = 1;

  const isOwn = (place: Place) => source.isOwn?.(place) ?? true;
  /** The newest write of each place; older ones of the same place are behind it in its lane. */
  const jobs = computed(() => {
    const found = new Map<string, Job[]>();
    for (const job of sync.mine.value) {
      const place = source.placeOf(job);
      if (!place) continue;
      const there = found.get(keyOf(place));
      if (there) there.push(job);
      else found.set(keyOf(place), [job]);
    }
    return found;
  });

  /** Each place by itself: a write changes what it is about, and nothing else is drawn anew. */
  const cells = new Map<string, ComputedRef<Cell>>();
  function cell(place: Place): Cell {
    const key = keyOf(place);
    let found = cells.get(key);
    if (!found) {
      found = computed<Cell>((was) => {
        const is = cellOf(place);
        return was && isSame(was, is) ? was : is;
      });
      cells.set(key, found);
    }
    return found.value;
  }
  function cellOf(place: Place): Cell {
    const kept = source.kept(place) ?? NOTHING;
    const job = jobs.value.get(keyOf(place))?.at(-1) ?? null;
    if (!job) {
      return { ...kept, place, state: kept.stands ? "saved" : "empty", job, refusal: null };
    }
    const body = job.body as { typed?: string; withdrawn?: boolean; variant?: string };
    const stands = !body.withdrawn;
    return {
      place,
      head: headOf(place),
      stands,
      typed: stands ? (job.typed ?? body.typed ?? "") : "",
      shown: stands ? (job.shown ?? body.typed ?? "") : "",
      variant: stands ? (body.variant ?? "") : kept.variant,
      state: sync.stateOf(job),
      job,
      refusal: job.refusal ?? null,
    };
  }
  /** The entry that a new one for this place succeeds. */
  function headOf(place: Place): string | null {
    const mine = jobs.value.get(keyOf(place))?.findLast((job) => !job.refusal);
    return mine?.id ?? source.kept(place)?.head ?? null;
  }
  /** What counts at a place if nothing more is done: its entry, or nothing. */
  function standing(place: Place): { id: string | null } & Text {
    const mine = jobs.value.get(keyOf(place))?.findLast((job) => !job.refusal);
    const none = { id: null, shown: "", typed: "" };
    if (mine) {
      const body = mine.body as { typed?: string; withdrawn?: boolean };
      if (body.withdrawn) return none;
      const typed = mine.typed ?? body.typed ?? "";
      return { id: mine.id, shown: mine.shown ?? typed, typed };
    }
    const kept = source.kept(place);
    return kept?.stands ? { id: kept.head, shown: kept.shown, typed: kept.typed } : none;
  }

  /** A refused write goes: it was never kept, so there is nothing of it to take back. */
  function drop(id: string) {
    sync.dismiss(id);
    for (const [at, step] of [...steps.entries()].reverse()) {
      const rest = step.filter((one) => one.wrote !== id);
      if (rest.length === step.length) continue;
      if (rest.length) steps[at] = rest;
      else steps.splice(at, 1);
    }
  }
  /** Put an entry, a taking back (null) or an earlier entry (`restores`) at a place. */
  function put(
    place: Place,
    entry: Entry | null,
    more: {
      restores?: string;
      back?: Text;
      over?: string;
      refusal?: Refusal;
      why?: string;
    } = {},
  ) {
    for (const job of jobs.value.get(keyOf(place)) ?? []) if (job.refusal) drop(job.id);
    const id = newId();
    const made = source.job(place, entry ?? { typed: "", why: more.why });
    const body = {
      ...made.body,
      id,
      pupil_id: place.pupilId,
      succeeds: more.over ?? headOf(place),
      withdrawn: entry === null && !more.restores,
      restores: more.restores ?? null,
    };
    const lane = laneOf(place.at, place.pupilId, place.slot);
    const label = { child: source.name(place.pupilId), page: pageOf(place, made.kind) };
    // An entry of its own place waits for nothing else; a time waits for its clock.
    const job = { ...made, id, at: place.at, lane, ...more.back, label, body } as Job;
    void (more.refusal ? sync.putRefused(job, more.refusal) : sync.put(job));
    asked.delete(keyOf(place));
    return id;
  }

  /** Leave an entry that was not taken open at its place: nothing of it is kept or sent. */
  function leaveOpen(place: Place, entry: Entry, why: { message: string; accepted: string }) {
    const refusal = { status: 422, choices: [], current: null, sure: false, ...why };
    return put(place, entry, { refusal });
  }
  /** Keep what one press says: a cell, or several; null takes back. */
  function write(changes: Change[]) {
    const more = changes.flatMap(({ place, entry }): Change[] =>
      entry ? (source.alsoFor?.(place, entry) ?? []) : [],
    );
    const all = [...changes, ...more.filter(({ place }) => standing(place).id === null)];
    const step = all.map(({ place, entry, why: whyNot }) => {
      const head = headOf(place);
      const { id: before, ...textBefore } = standing(place);
      const why = entry && !entry.why && before ? "typed again" : (entry?.why ?? "");
      const wrote = put(place, entry && { ...entry, why }, { why: whyNot });
      return { place, head, before, textBefore, wrote };
    });
    if (step.length) steps.push(step);
    newest = step.map(({ wrote }) => wrote);
    newestTests = new Set(all.map(({ place }) => place.at)).size;
    announcement.value = problem.value = "";
  }

  /** Follow an entry through undos and refusals to the one that stands for it now. */
  function now(id: string | null): string | null {
    let found = sync.standing(id);
    // A refused undo leads back to what it was made for: that stands again.
    const passed = new Set<string>();
    while (found !== null && again.has(found) && !passed.has(found)) {
      passed.add(found);
      found = sync.standing(again.get(found) ?? null);
    }
    return found;
  }

  /** Whether a write waits for a decision. */
  function refusedAt(id: string): boolean {
    return sync.mine.value.some((job) => job.id === id && job.refusal);
  }
  /** The last thing done that this table shows, in it or in another one. */
  function lastStep(): Step | undefined {
    const at = steps.findLastIndex((step) =>
      step.every(({ place }) => source.kept(place) !== null || jobs.value.has(keyOf(place))),
    );
    return at < 0 ? undefined : steps.splice(at, 1)[0];
  }
  /** Take back exactly the last thing kept. Returns where, for the cursor to go to. */
  function takeBack(): Place | null {
    newest = [];
    let step = lastStep();
    // What the server refused after it was typed over was never kept: before that, then.
    while (step?.every(({ wrote }) => sync.wasRefused(wrote) && !refusedAt(wrote))) {
      step = lastStep();
    }
    problem.value = "";
    if (!step) {
      announcement.value = t("nothingToUndo");
      return null;
    }
    const done: string[] = [];
    const changed: string[] = [];
    for (const change of step) {
      const { place, wrote } = change;
      const name = source.name(place.pupilId);
      if (refusedAt(wrote)) {
        sync.dismiss(wrote);
      } else if (headOf(place) !== (now(wrote) ?? wrote)) {
        // Somebody else entered it since: that is not ours to take back.
        changed.push(name);
        continue;
      } else {
        const before = now(change.before);
        // What was to stand again may have been refused meanwhile: then what it replaced does.
        const back = sync.standing(change.before) === change.before ? change.textBefore : undefined;
        const id = before
          ? put(place, { typed: "", why: "undone" }, { restores: before, back })
          : put(place, null);
        // Earlier steps at this place wrote what stands again now.
        const head = now(change.head);
        if (head) again.set(head, id);
      }
      done.push(
        change.textBefore.shown
          ? t("childScoreAgain", { child: name, score: change.textBefore.shown })
          : t("childUndone", { child: name }),
      );
    }
    const others = changed.length
      ? t("notUndoneBecauseSomeoneElseHas", { names: changed.join(", ") })
      : "";
    const told = [...new Set(done)];
    announcement.value =
      told.length > 3
        ? t("nScoreUndoneOthers", { n: told.length, others }, told.length)
        : `${told.join("; ")}.${others}`;
    return step[0]?.place ?? null;
  }

  /**
   * A refused entry sent again as it is meant: another reading of it, "it is right", or over what
   * another device entered.
   */
  function resend(place: Place, change: { typed?: string; sure?: boolean; over?: boolean }) {
    const refused = cell(place).job;
    if (!refused?.refusal) return;
    const { typed, sure, over } = change;
    const entry = { ...(refused.body as Entry), ...(typed && { typed }), ...(sure && { sure }) };
    const current = over ? refused.refusal.current : null;
    const { id: before, ...textBefore } = current
      ? { id: current.id, shown: current.typed, typed: current.typed }
      : standing(place);
    const head = current?.id ?? headOf(place);
    const at = steps.findIndex((step) => step.some((one) => one.wrote === refused.id));
    const step = steps[at] ?? [];
    const rest = step.filter((one) => one.wrote !== refused.id);
    if (current) entry.why ||= t("enteredOnTwoDevices");
    const wrote = put(place, entry, { over: current?.id });
    const made = { place, head, before, textBefore, wrote };
    // It takes the place of the press it was refused for.
    const still = steps.findIndex((one) => one === rest || one.some((each) => rest.includes(each)));
    if (still >= 0) steps[still] = [...rest, made];
    else steps.splice(at < 0 ? steps.length : at, 0, [made]);
  }
  function letGo(place: Place) {
    const { job } = cell(place);
    if (job?.refusal) drop(job.id);
  }

  const settling = useMutation({
    mutationFn: async (question: Question) => {
      const entry = source.confirming?.(question);
      if (!entry) return source.settle?.(question);
      write([{ place: question.place, entry }]);
    },
    onSuccess(words, question) {
      asked.delete(keyOf(question.place));
      // A best is told once it counts.
      if (words) announcement.value = `${source.name(question.place.pupilId)}: ${words}`;
    },
    onError: (error) => (problem.value = error.message),
  });

  const stop = sync.onSaved((job, answer) => {
    const place = source.placeOf(job);
    if (!place) return;
    source.take(job, answer);
    const written = steps.some((step) => step.some((one) => one.wrote === job.id));
    if (!isOwn(place)) return;
    const question = source.questionsOf(job, answer);
    if (written && question) asked.set(keyOf(place), question);
    else if (written) asked.delete(keyOf(place));
    if (!newest.includes(job.id)) return;
    const tests = newestTests > 1 ? t("forAllNTests", { n: newestTests }) : "";
    announcement.value = `${source.name(place.pupilId)}: ${source.announcementOf(job, answer)}${tests}`;
  });
  onScopeDispose(stop);
  // What stood for a refused entry after an undo stands for the one it was to replace.
  const stopRefused = sync.onRefused(({ id }) => {
    for (const [held, by] of again) if (by === id) again.delete(held);
    const stands = again.get(id);
    const replaced = sync.standing(id);
    if (stands && replaced) again.set(replaced, stands);
  });
  onScopeDispose(stopRefused);

  return {
    cell,
    /** What counts at a place, as typed: an entry that was not taken does not. */
    counted: (place: Place) => standing(place).typed,
    write,
    takeBack,
    resend,
    letGo,
    leaveOpen,
    announcement,
    problem,
    /** What is asked about the scores that were kept here, the newest last. */
    questions: computed(() => [...asked.values()]),
    settle: (question: Question) => settling.mutate(question),
    /** Ask about a score that was kept earlier. */
    ask: (question: Question) => asked.set(keyOf(question.place), question),
    /** Refused entries of this sheet. */
    refused: computed(() =>
      [...jobs.value.values()]
        .map((list) => list.at(-1))
        .filter((job): job is Job & { refusal: Refusal } => Boolean(job?.refusal))
        .flatMap((job) => {
          const place = source.placeOf(job);
          return place && isOwn(place) ? [{ job, refusal: job.refusal, place }] : [];
        }),
    ),
    sync,
    source,
  };
}
export type Sheet = ReturnType<typeof useSheet>;
