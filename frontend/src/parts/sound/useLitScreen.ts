/** Keeps the screen lit while a clock runs, where the browser can: the clock does not depend on it. */
import { useWakeLock } from "@vueuse/core";
import { onScopeDispose } from "vue";

export function useLitScreen() {
  const lock = useWakeLock();
  const release = () => void lock.release().catch(() => undefined);
  onScopeDispose(release);
  return {
    hold: () => void lock.request("screen").catch(() => undefined), // refused on low battery
    release,
  };
}
