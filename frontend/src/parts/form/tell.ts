/** Says in one place that something was saved, and offers to undo it where that can be done. */
import { shallowRef } from "vue";
import { t } from "../../messages/parts";

export interface Told {
  words: string;
  /** What puts it back as it was. */
  undo: (() => Promise<unknown>) | null;
}
/** What was done last; null once it has been read. */
export const told = shallowRef<Told | null>(null);

/** Tells what was done, in place of what was told before. */
export function tell(words: string, undo: Told["undo"] = null): void {
  told.value = { words, undo };
}

/** Puts back what was told. Where that fails it says why, and can be tried again. */
export async function putBack(): Promise<void> {
  const undo = told.value?.undo;
  if (!undo) return;
  told.value = { words: t("undoing"), undo: null };
  try {
    await undo();
    tell(t("undone"));
  } catch (error) {
    tell((error as Error).message, undo);
  }
}
