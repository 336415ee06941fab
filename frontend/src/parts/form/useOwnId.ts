/** The id of something that is about to be made. */
import { ref, watch, type WatchSource } from "vue";
import { v4 as newId } from "uuid";

/**
 * Pressed twice, or again after an answer that was lost, it is made once. Once what is asked for is
 * another it is another thing, unless `stays` says that it is still the one that `known` names.
 */
export function useOwnId(
  asked: WatchSource | object,
  { known, stays = () => false }: { known?: string | undefined; stays?: () => boolean } = {},
) {
  const id = ref(known ?? newId());
  watch(
    asked,
    () => {
      if (!stays()) id.value = newId();
    },
    { deep: true },
  );
  return id;
}
