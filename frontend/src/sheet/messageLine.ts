/**
 * The hall's message line: a zone of fixed height in which everything is said that comes while scores
 * are taken, so that nothing under a hand moves. A way that is shown outside the hall says it in place.
 */
import { inject, provide, type InjectionKey, type Ref } from "vue";

const LINE: InjectionKey<Readonly<Ref<HTMLElement | null>>> = Symbol("message line");

/** The hall has the zone. */
export function provideMessageLine(zone: Readonly<Ref<HTMLElement | null>>) {
  provide(LINE, zone);
}
/** Where messages go; null where there is no such zone. */
export function useMessageLine(): Readonly<Ref<HTMLElement | null>> | null {
  return inject(LINE, null);
}
