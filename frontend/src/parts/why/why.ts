/** Ask why a score stands where it does: one dialog for the whole page, shown by the app's shell. */
import { shallowRef } from "vue";

/** The entry that is asked about at the moment; nothing most of the time. */
export const askedWhy = shallowRef<string | null>(null);
/** Where the typing was: it goes on there. */
let before: HTMLElement | null = null;

export function askWhy(attemptId: string): void {
  before = document.activeElement instanceof HTMLElement ? document.activeElement : null;
  askedWhy.value = attemptId;
}
export function endWhy(): void {
  askedWhy.value = null;
  const field = before;
  before = null;
  // Once the dialog has gone, and let the focus go.
  setTimeout(() => field?.isConnected && field.focus());
}
