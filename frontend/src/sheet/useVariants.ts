/** Which form of the movement each child does: its own, and changed for nobody else. */
import { shallowReactive } from "vue";
import type { Schemas } from "../api/client";

export interface Doer {
  pupilId: string;
  at: string;
  /** The form of its score, else the one it did last, else the usual. */
  variant: string;
  empty: boolean;
}

export function useVariants(variants: (at: string) => Schemas["VariantRow"][]) {
  const chosen = shallowReactive(new Map<string, string>());
  const key = (doer: Doer) => `${doer.at} ${doer.pupilId}`;

  function of(doer: Doer): string {
    return chosen.get(key(doer)) ?? doer.variant;
  }
  function nameOf(at: string, code: string): string {
    return variants(at).find((one) => one.code === code)?.name ?? "";
  }
  return {
    of,
    nameOf,
    /** A form, and the one of last time where that was another. */
    titleOf: (at: string, code: string, last: string) =>
      code === last ? nameOf(at, code) : `${nameOf(at, code)}; last time ${nameOf(at, last)}`,
    /** This child's only. */
    choose(doer: Doer, code: string) {
      chosen.set(key(doer), code);
    },
    /** The next form of this child. */
    turn(doer: Doer) {
      const codes = variants(doer.at).map((one) => one.code);
      if (codes.length < 2) return;
      chosen.set(key(doer), codes[(codes.indexOf(of(doer)) + 1) % codes.length] ?? "");
    },
    /** Of those who have no score yet, how many a choice for the whole class would change. */
    wouldChange: (doers: Doer[], code: string) =>
      doers.filter((one) => one.empty && of(one) !== code).length,
    chooseForAll(doers: Doer[], code: string) {
      for (const one of doers) if (one.empty) chosen.set(key(one), code);
    },
    /** A score that was kept carries its form by itself. */
    forget: (doer: Doer) => chosen.delete(key(doer)),
  };
}
