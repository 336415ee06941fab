/** What is typed, how it will be kept, and what is wrong with it. */
import { useQuery } from "@tanstack/vue-query";
import { refDebounced } from "@vueuse/core";
import { computed, ref } from "vue";
import { answer, client, type Schemas } from "../api/client";
import { quickProblem, type Quick } from "./check";

/** The test under the cursor, as far as typing goes. */
export interface Form {
  /** Whose rules read it; null where it is read here, as pulses are. */
  activityId: string | null;
  quick: Quick;
  reasons: readonly { key: string; words: string }[];
  accepted: string;
  /** What a whole number typed alone is, where that goes without asking: one of it, and several. */
  counts: [string, string] | null;
  /** The whole entry, where only a part of it is typed. */
  whole?(text: string): string;
  /** Who reads it, where that is not asked as the teacher. */
  reading?(text: string): Promise<Schemas["Reading"]>;
  /** How it will be kept, where that is worked out here. */
  words?(text: string): string;
}
/** Why an entry is not taken as it is typed, and what would be. */
export interface Wrong {
  message: string;
  accepted: string;
  /** One key can say that it is right all the same. */
  sure: boolean;
}
const ASK_AFTER_MS = 150;
/**
 * A field in which nothing is put right, filled in or turned into capitals by the device. What is
 * wrong with the entry, or how it will be kept, stands in the message line.
 */
export const LITERAL = {
  "aria-describedby": "problem kept",
  autocomplete: "off",
  autocapitalize: "off",
  spellcheck: false,
  maxlength: 180,
  enterkeyhint: "next",
} as const;

export function useEntry(form: () => Form | null) {
  const typed = ref("");
  const problem = ref<Wrong | null>(null);
  const text = computed(() => typed.value.trim());
  const settled = refDebounced(text, ASK_AFTER_MS);
  /** What is kept for what is typed: a reason stands alone. */
  function wholeOf(entry: string): string {
    const held = form();
    const isReason = held?.reasons.some((one) => one.key === entry.toLowerCase());
    return isReason ? entry : (held?.whole?.(entry) ?? entry);
  }

  const reason = computed(
    () => form()?.reasons.find((one) => one.key === text.value.toLowerCase())?.words ?? null,
  );
  const wrong = computed(() => {
    const held = form();
    if (!held || !text.value || reason.value) return null;
    return quickProblem(
      wholeOf(text.value),
      held.quick,
      held.reasons.map((one) => one.key),
    );
  });
  const isShort = (entry: string) => /^\d{1,3}$/.test(entry);
  /** The rules say how an entry that is more than a few digits of a count is kept. */
  const asks = computed(
    () =>
      Boolean(form()?.activityId && settled.value) &&
      !reason.value &&
      !wrong.value &&
      !(form()?.counts && isShort(settled.value)),
  );
  const reading = useQuery({
    queryKey: computed(() => ["reading", form()?.activityId, wholeOf(settled.value)]),
    queryFn: () => {
      const typed = wholeOf(settled.value);
      const path = { activity_id: form()?.activityId ?? "" };
      return (
        form()?.reading?.(typed) ??
        answer(
          client.GET("/api/activities/{activity_id}/reading", {
            params: { path, query: { typed } },
          }),
        )
      );
    },
    enabled: asks,
    staleTime: Infinity,
    retry: false,
  });
  const answered = computed(() => (text.value === settled.value ? reading.data.value : undefined));
  /** How what is typed will be kept, before it is; "" where it will not be. */
  const kept = computed(() => {
    if (!text.value || wrong.value) return "";
    if (reason.value) return reason.value;
    const counts = form()?.counts;
    if (counts && isShort(text.value)) {
      return `${text.value} ${counts[Number(text.value) === 1 ? 0 : 1]}`;
    }
    return form()?.words?.(text.value) ?? answered.value?.words ?? "";
  });
  /** Why it will not be kept as it is typed. */
  // What Enter was told stands below already.
  const doubt = computed(() =>
    problem.value ? "" : (wrong.value ?? (asks.value ? (answered.value?.problem ?? "") : "")),
  );

  function clear(text = "") {
    typed.value = text;
    problem.value = null;
  }
  /** What can be told here already against an entry. */
  function wrongWith(entry: string): Wrong | null {
    const held = form();
    if (!held) return null;
    const keys = held.reasons.map((one) => one.key);
    const message = quickProblem(wholeOf(entry), held.quick, keys);
    return message ? { message, accepted: held.accepted, sure: false } : null;
  }
  return { typed, text, problem, kept, doubt, clear, wrongWith };
}
export type TypedEntry = ReturnType<typeof useEntry>;
