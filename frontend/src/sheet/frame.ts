/**
 * The frame of the hall: fixed zones that keep their place and size whatever is said in them. A way
 * of taking scores fills its own zone and puts into the others what belongs there.
 */
import { inject, provide, ref, shallowReactive, type InjectionKey, type Ref } from "vue";
import type { History } from "./types";

/** own: the clock of the test that is shown; main: its one button. */
export const ZONES = ["own", "main", "messages", "tools", "settings", "drawer", "pad"] as const;
export type Zone = (typeof ZONES)[number];
/** What the drawer shows. */
export type Drawn = "brief" | "aims" | "keys" | "conditions" | "forms" | "unit" | "more";

export interface Frame {
  /** Where each zone is on the page, once it is there. */
  zones: Partial<Record<Zone, HTMLElement>>;
  drawer: Ref<Drawn | null>;
  /** What the message line says while nothing else is to be said. */
  idle: Ref<string>;
  /** What was typed while the sheet was on its way: it is typed into it once it is there. */
  early: Ref<string>;
  /** Another sheet was asked for and is not on screen yet. */
  turning: Ref<boolean>;
  /** Whether the own clock of the test that is shown was started. */
  begun: Ref<boolean>;
  /** Everybody's pulse of the check that the plan is at is in. */
  pulsesIn: Ref<boolean>;
  /** What was done in any of its tables. */
  history: History;
  /** A test's own clock was started. */
  started: () => void;
}
const FRAME: InjectionKey<Frame> = Symbol("frame");

export function provideFrame(started: () => void, turning = ref(false)): Frame {
  const zones = shallowReactive<Frame["zones"]>({});
  const frame = {
    zones,
    drawer: ref<Drawn | null>(null),
    idle: ref(""),
    early: ref(""),
    turning,
    begun: ref(false),
    pulsesIn: ref(false),
    history: newHistory(),
    started,
  };
  provide(FRAME, frame);
  return frame;
}
function newHistory(): History {
  return { steps: shallowReactive([]), again: new Map() };
}
/** The hall's, or one of its own where a table stands elsewhere. */
export function useHistory(): History {
  return inject(FRAME, null)?.history ?? newHistory();
}
export function useFrame(): Frame {
  const found = inject(FRAME);
  if (!found) throw new Error("a way of taking scores stands in the hall's frame");
  return found;
}
