/** The moment at which a conductor's clock is shown. */
import { ref, watch, type Ref } from "vue";
import { now } from "../../../parts/time/timeSource";
import { useLooks } from "../../../parts/time/useLooks";
import * as conductor from "./conductor";

/** It moves on when something shown differs by then; `each` is called with every look. */
export function useMoment(
  plan: Readonly<Ref<conductor.Timeline | null>>,
  state: Readonly<Ref<conductor.Conduct | null>>,
  each: (moment: number) => void = () => {},
) {
  const at = ref(now());
  const { soon } = useLooks(
    () => {
      if (!plan.value || !state.value) return;
      const moment = now();
      if (conductor.looksOther(plan.value, state.value, at.value, moment)) at.value = moment;
      each(moment);
    },
    () => conductor.goes(plan.value, state.value, at.value),
    () => (plan.value && state.value ? conductor.dueIn(plan.value, state.value, now()) : Infinity),
  );
  // What was changed is seen as of now: by an older look a skip would be in what it left.
  watch(
    state,
    () => {
      at.value = now();
      soon();
    },
    { flush: "sync" },
  );
  return at;
}
