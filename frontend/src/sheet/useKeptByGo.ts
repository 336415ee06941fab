/** What this device keeps of each go and wave of a test, by one name for all of them. */
import { useLocalStorage } from "@vueuse/core";
import { computed, type WritableComputedRef } from "vue";

/**
 * The value of the go that is on, `none` where nothing was kept of it. A name for each go would be
 * read anew a moment after another go is on: over what was begun in it by then.
 */
export function useKeptByGo<T>(name: string, go: () => string, none: T): WritableComputedRef<T> {
  const all = useLocalStorage<Record<string, T>>(name, {}, { writeDefaults: false, shallow: true });
  return computed({
    get: () => all.value[go()] ?? none,
    set: (value) => (all.value = { ...all.value, [go()]: value }),
  });
}
