/**
 * What happens in a lesson, as it happens: server-sent events. One says what has changed, and the
 * page asks for it as for everything else. Where events are barred, pages ask now and then.
 */
import { useTimeoutFn } from "@vueuse/core";
import { onScopeDispose, ref, type Ref } from "vue";

export interface LiveEvent {
  what: "score" | "pulse" | "clock" | "plan" | "helpers" | "goes" | "gap" | "ended";
  activity?: string | null;
  pupil?: string | null;
  /** The entry it was made by; null for what follows from one. */
  entry?: string | null;
}
/** A stream that was refused is asked for again. */
const REFUSED_MS = 10_000;

const following = ref(0);
/** How often a page asks by itself: never while it is told. */
export function unlessTold(ms: number): number | false {
  return following.value ? false : ms;
}

/** Follow the events at an address for as long as the screen is open. */
export function useLive(address: string, heard: (event: LiveEvent) => void): Ref<boolean> {
  const isTold = ref(false);
  let source: EventSource | null = null;
  function told(now: boolean) {
    if (isTold.value === now) return;
    isTold.value = now;
    following.value += now ? 1 : -1;
  }
  function open() {
    // A browser without them, as in tests of parts.
    if (typeof EventSource === "undefined") return;
    source = new EventSource(address);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const event = JSON.parse(data) as LiveEvent | { what: "hello" };
      if (event.what !== "hello") heard(event);
      else {
        told(true);
        // Between the page's own answer and this one, something may have happened.
        heard({ what: "gap" });
      }
    };
    source.onerror = () => {
      told(false);
      // Else the browser comes again by itself.
      if (source?.readyState === EventSource.CLOSED) again.start();
    };
  }
  const again = useTimeoutFn(open, REFUSED_MS, { immediate: false });
  open();
  onScopeDispose(() => {
    source?.close();
    told(false);
  });
  return isTold;
}
