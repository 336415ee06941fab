/** A number is typed wherever the typing is: all of it goes into its field. */
import { useEventListener } from "@vueuse/core";
import type { ShallowRef } from "vue";

export function useNumberField(field: Readonly<ShallowRef<HTMLInputElement | null>>) {
  useEventListener(window, "keydown", (event) => {
    const target = event.target as HTMLElement;
    if (event.ctrlKey || event.metaKey || event.altKey || !/^\d$/.test(event.key)) return;
    if (target.closest("input,select,textarea,.v-overlay")) return;
    field.value?.focus({ preventScroll: true });
  });
}
