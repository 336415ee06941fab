/**
 * What wants an answer before the typing goes on: an entry that was not taken, or a score that is
 * asked about. Until one key says for whom, what is typed is held and shown, and reaches no child.
 */
import { computed, ref, shallowReactive, shallowRef, watch } from "vue";
import { play } from "../parts/sound/sound";
import { keyOf, type Place, type Question } from "./types";
import type { Sheet } from "./useSheet";

/** What was typed at a place and not taken here, before it was sent. */
export interface Local {
  place: Place;
  typed: string;
  message: string;
  accepted: string;
  /** One key can say that it is right all the same. */
  sure: boolean;
}
export type Matter =
  | { kind: "local"; id: string; place: Place; local: Local }
  | { kind: "refused"; id: string; place: Place }
  | { kind: "asked"; id: string; place: Place; question: Question }
  /** Nothing is asked any more; what was typed meanwhile still waits for its child. */
  | { kind: "aside"; id: "aside"; place: null };

/** The end of an entry among the keys that are held. */
export const KEPT = "\n";
/** So long a key that answers is taken for one that was on its way already. */
export const ANSWERS_AFTER_MS = 700;

export function useHold(sheet: Sheet) {
  const local = shallowRef<Local | null>(null);
  const keys = ref<string[]>([]);
  /** Answered with "later": they stay open at their cells and hold nothing up. */
  const later = shallowReactive(new Set(sheet.refused.value.map(({ job }) => job.id)));
  /** Where an answer is being typed. */
  const correcting = shallowRef<string | null>(null);

  const matter = computed<Matter | null>((shown) => {
    if (local.value) {
      const { place } = local.value;
      return { kind: "local", id: `local ${keyOf(place)}`, place, local: local.value };
    }
    // An answer that is being typed is ended first: what comes meanwhile waits its turn, and so does
    // what was held for the next.
    if (correcting.value) return null;
    const all = wanted.value;
    // What is read stays until it is answered, whatever else comes meanwhile.
    const next = all.find((one) => one.id === shown?.id) ?? all[0];
    return next ?? (keys.value.length ? { kind: "aside", id: "aside", place: null } : null);
  });
  /** What wants an answer, and was not put off. */
  const wanted = computed((): Matter[] => [
    ...sheet.refused.value
      .filter(({ job }) => !later.has(job.id))
      .map(({ job, place }) => ({ kind: "refused" as const, id: job.id, place })),
    ...sheet.questions.value
      .filter((one) => !later.has(one.entryId))
      .map((question) => {
        const { entryId: id, place } = question;
        return { kind: "asked" as const, id, place, question };
      }),
  ]);
  let since = 0;
  watch(
    () => matter.value?.id,
    (id) => {
      if (!id) return;
      since = performance.now();
      if (id !== "aside") play("ask");
    },
    { flush: "sync" },
  );
  /** What is held, an entry each; the last may not be ended yet. */
  const held = computed(() => keys.value.join("").split(KEPT).filter(Boolean));

  const refusal = computed(() => {
    const now = matter.value;
    return now?.kind === "refused" ? sheet.cell(now.place).refusal : null;
  });
  let lastKey = -Infinity;
  /** Whether a key that stands alone can have been meant as an answer. */
  function isAnswer(): boolean {
    const at = performance.now();
    const meant = at - since > ANSWERS_AFTER_MS && at - lastKey > ANSWERS_AFTER_MS;
    lastKey = at;
    return meant;
  }
  return {
    matter,
    refusal,
    held,
    correcting,
    /** How many are open at their cells, answered with "later". */
    open: computed(
      () =>
        sheet.refused.value.filter(({ job }) => later.has(job.id)).length +
        sheet.questions.value.filter((one) => later.has(one.entryId)).length,
    ),
    /** Leave what is asked open at its cell. */
    postpone() {
      const now = matter.value;
      if (now && now.kind !== "local") later.add(now.id);
    },
    /** Ask about a score that was kept earlier. */
    ask(question: Question) {
      later.delete(question.entryId);
      sheet.ask(question);
    },
    /** Ask about all that is open again. */
    reopen: () => later.clear(),
    canBeRight: computed(() => {
      const now = matter.value;
      if (now?.kind === "local") return now.local.sure;
      return now?.kind === "asked" || Boolean(refusal.value?.sure);
    }),
    /** It is right as it is; false where that cannot be said of it here. */
    right(): boolean {
      const now = matter.value;
      if (now?.kind === "asked") {
        later.add(now.id);
        sheet.settle(now.question);
        return true;
      }
      if (now?.kind !== "refused" || !refusal.value?.sure) return false;
      sheet.resend(now.place, { sure: true });
      return true;
    },
    /** Another reading of it, or over what another device entered; null lets it go. */
    decide(change: { typed?: string; over?: boolean } | null) {
      const now = matter.value;
      if (now?.kind !== "refused") return;
      if (change) sheet.resend(now.place, change);
      else sheet.letGo(now.place);
    },
    /** An entry that is not taken: nothing was sent. */
    refuse(one: Local) {
      local.value = one;
      correcting.value = null;
    },
    forgetLocal: () => (local.value = null),
    putOff: (id: string) => later.add(id),
    hold(text: string) {
      for (const key of text) keys.value.push(key);
      lastKey = performance.now();
    },
    /** All that was held; the hold is empty then. */
    takeHeld(): string[] {
      const all = keys.value;
      keys.value = [];
      return all;
    },
    /**
     * Enter ends an entry that is held; whether it answers, alone and late enough to be meant so.
     */
    enter(): boolean {
      const alone = isAnswer();
      const last = keys.value.at(-1);
      if (last === undefined) return alone;
      if (last !== KEPT) keys.value.push(KEPT);
      return false;
    },
    /** Backspace rubs out what is held; alone it answers too. */
    backspace(): boolean {
      const alone = isAnswer();
      return keys.value.pop() === undefined && alone;
    },
  };
}
export type Hold = ReturnType<typeof useHold>;
