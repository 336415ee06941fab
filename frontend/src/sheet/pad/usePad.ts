/** Whether the pad of numbers is there: by touch from the beginning, elsewhere when it is asked for. */
import { useMediaQuery } from "@vueuse/core";
import { computed, ref } from "vue";

export function usePad() {
  const touch = useMediaQuery("(pointer: coarse)");
  const asked = ref<boolean | null>(null);
  const pad = computed(() => asked.value ?? touch.value);
  return { pad, turnPad: () => (asked.value = !pad.value) };
}
