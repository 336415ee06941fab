/**
 * Keys that are typed while a sheet is on its way go into it once it is there: how long it takes to
 * come changes nothing of what they mean.
 */
import { useEventListener } from "@vueuse/core";
import type { Ref } from "vue";
import { KEPT } from "../../sheet/useHold";

/** Ways in which children's cells are typed in. */
export const TYPED_WAYS = new Set(["list", "measure", "partner", "target", "grid", "pulse"]);
/** What an entry begins with: a digit, a sign, or the letter of a reason. */
const BEGINS = /^[\d\-+~axkrv]$/;
/** Not more than somebody types in a few seconds. */
const MOST = 200;

export function useEarlyKeys(early: Ref<string>, isComing: () => boolean) {
  useEventListener(
    window,
    "keydown",
    (event: KeyboardEvent) => {
      const { key } = event;
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || !isComing()) return;
      if (target.closest("input:not([data-cell]),select,textarea,[role=dialog],.v-overlay,.drawer"))
        return;
      if (
        early.value
          ? !(key.length === 1 || key === "Enter" || key === "Backspace")
          : !BEGINS.test(key)
      )
        return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (key === "Backspace") early.value = early.value.slice(0, -1);
      else if (early.value.length < MOST) early.value += key === "Enter" ? KEPT : key;
    },
    { capture: true },
  );
}
