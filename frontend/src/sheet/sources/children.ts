/** The children of a page by their ids: every cell asks for its own. */
import { computed } from "vue";

export function byPupil<T extends { pupil_id: string }>(children: () => T[] | undefined) {
  const found = computed(() => new Map(children()?.map((one) => [one.pupil_id, one])));
  return (id: string) => found.value.get(id);
}
