import { useEventListener } from "@vueuse/core";

/** Ctrl-Z (or ⌘-Z) anywhere on the page; with `besideFields` the browser's own undo stays in fields. */
export function useUndoKey(undo: () => void, { besideFields = false } = {}): void {
  useEventListener("keydown", (event) => {
    if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
    if (besideFields && (event.target as HTMLElement).closest("input,textarea,select")) return;
    event.preventDefault();
    undo();
  });
}
