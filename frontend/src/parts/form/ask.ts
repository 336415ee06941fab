/** Ask before something is lost: one dialog for the whole page, shown by the app's shell. */
import { shallowRef } from "vue";

export interface Asked {
  title: string;
  words: string;
  yes: string;
  answer: (yes: boolean) => void;
}
/** What is asked at the moment; nothing most of the time. */
export const asked = shallowRef<Asked | null>(null);

/** True once "yes" is pressed, false for "not now". */
export function ask(question: Omit<Asked, "answer">): Promise<boolean> {
  asked.value?.answer(false);
  return new Promise((done) => {
    asked.value = {
      ...question,
      answer(yes) {
        asked.value = null;
        done(yes);
      },
    };
  });
}
