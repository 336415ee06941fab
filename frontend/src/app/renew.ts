/** A newer Lauf that waits to take over: what takes it; null while there is none. */
import { shallowRef } from "vue";

export const renew = shallowRef<(() => void) | null>(null);
