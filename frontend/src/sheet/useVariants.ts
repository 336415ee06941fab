/** Which form of the movement each child does: its own, and changed for nobody else. */
import { t } from "../messages/sheet";
import { shallowReactive } from "vue";
import type { Schemas } from "../api/client";

export interface Doer {
  pupilId: string;
  at: string;
  /** The form of its score, else the one it did last, else the usual. */
  variant: string;
  empty: boolean;
}

/**
 * By activity, the form that was chosen for each child: what was chosen in one way of taking scores
 * holds in the others, and after a reload, for whoever has no score yet.
 */
const kept = shallowReactive(new Map<string, Record<string, string>>());
const placeOf = (at: string) => `lauf.forms.${at}`;

function keptAt(at: string): Record<string, string> {
  const known = kept.get(at);
  if (known) return known;
  try {
    return JSON.parse(localStorage.getItem(placeOf(at)) ?? "{}") as Record<string, string>;
  } catch {
    return {}; // cut off while it was written
  }
}
function keep(doers: Doer[], code: string) {
  for (const at of new Set(doers.map((one) => one.at))) {
    const mine = doers.filter((one) => one.at === at);
    const now = { ...keptAt(at), ...Object.fromEntries(mine.map((one) => [one.pupilId, code])) };
    kept.set(at, now);
    localStorage.setItem(placeOf(at), JSON.stringify(now));
  }
}

export function useVariants(variants: (at: string) => Schemas["VariantEntry"][]) {
  /** Here and now, also for a child whose score is to be of another form. */
  const chosen = shallowReactive(new Map<string, string>());
  const key = (doer: Doer) => `${doer.at} ${doer.pupilId}`;

  function of(doer: Doer): string {
    const before = doer.empty ? keptAt(doer.at)[doer.pupilId] : undefined;
    return chosen.get(key(doer)) ?? before ?? doer.variant;
  }
  function choose(doers: Doer[], code: string) {
    for (const one of doers) chosen.set(key(one), code);
    keep(doers, code);
  }
  function nameOf(at: string, code: string): string {
    return variants(at).find((one) => one.code === code)?.name ?? "";
  }
  return {
    of,
    nameOf,
    /** A form, and the one of last time where that was another. */
    titleOf: (at: string, code: string, last: string) =>
      code === last
        ? nameOf(at, code)
        : t("formLastTimeLast", { form: nameOf(at, code), last: nameOf(at, last) }),
    /** This child's only. */
    choose: (doer: Doer, code: string) => choose([doer], code),
    /** The next form of this child. */
    turn(doer: Doer) {
      const codes = variants(doer.at).map((one) => one.code);
      if (codes.length < 2) return;
      choose([doer], codes[(codes.indexOf(of(doer)) + 1) % codes.length] ?? "");
    },
    /** Of those who have no score yet, how many a choice for the whole class would change. */
    wouldChange: (doers: Doer[], code: string) =>
      doers.filter((one) => one.empty && of(one) !== code).length,
    chooseForAll(doers: Doer[], code: string) {
      const without = doers.filter((one) => one.empty);
      choose(without, code);
    },
  };
}
