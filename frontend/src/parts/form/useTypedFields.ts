/** Fields beside rows, each kept by itself: what is wrong with one stays beside it, as it was typed. */
import { forget } from "../forget";
import { reactive } from "vue";
import { wordsOf } from "../../api/client";

export function useTypedFields(send: (key: string, typed: string) => Promise<unknown>) {
  const typed = reactive<Record<string, string>>({});
  const wrong = reactive<Record<string, string>>({});

  return {
    typed,
    wrong,
    type: (key: string, event: Event) => {
      typed[key] = (event.target as HTMLInputElement).value;
    },
    /** Keep what was typed in a field; nothing where nothing was. */
    keep: async (key: string) => {
      const entry = typed[key];
      if (entry === undefined) return;
      try {
        await send(key, entry);
        // Typed on meanwhile, it is not kept yet.
        if (typed[key] === entry) forget(typed, key);
        forget(wrong, key);
      } catch (error) {
        wrong[key] = wordsOf(error);
      }
    },
  };
}
