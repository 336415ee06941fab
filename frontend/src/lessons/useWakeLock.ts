/** Keep the screen lit while the clock runs, where the browser can. */
export function useWakeLock() {
  let held: WakeLockSentinel | null = null;
  return {
    async hold() {
      try {
        held = (await navigator.wakeLock?.request("screen")) ?? null;
      } catch {
        held = null; // refused on low battery: the clock does not depend on it
      }
    },
    release() {
      void held?.release();
      held = null;
    },
  };
}
