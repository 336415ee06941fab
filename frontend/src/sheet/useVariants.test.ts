import { t } from "../messages/sheet";
import { expect, it } from "vitest";
import { useVariants, type Doer } from "./useVariants";

const VARIANTS = ["knees", "full"].map((code) => ({
  code,
  name: `on ${code}`,
  key: code[0]!,
  usual: true,
}));
const doer = (pupilId: string, more: Partial<Doer> = {}): Doer => ({
  ...{ pupilId, at: "press-ups", variant: "full", empty: true },
  ...more,
});

it("holds in the next way for whoever has no score yet", () => {
  const tap = useVariants(() => VARIANTS);
  tap.chooseForAll([doer("ada"), doer("ben", { empty: false })], "knees");
  const list = useVariants(() => VARIANTS);
  expect(list.of(doer("ada"))).toBe("knees");
  expect(list.of(doer("ben", { empty: false }))).toBe("full");
  // A score that was kept under another form meanwhile is of that one.
  expect(list.of(doer("ada", { empty: false }))).toBe("full");
  expect(list.of(doer("ada", { at: "squats" }))).toBe("full");
  list.turn(doer("ada"));
  expect(useVariants(() => VARIANTS).of(doer("ada"))).toBe("full");
});

it("names a form, and the one of last time where that was another", () => {
  const forms = useVariants((at) => (at === "press-ups" ? VARIANTS : []));
  expect(forms.nameOf("press-ups", "full")).toBe("on full");
  expect(forms.nameOf("press-ups", "of an earlier edition")).toBe("");
  expect(forms.nameOf("plank", "full")).toBe("");
  expect(forms.titleOf("press-ups", "knees", "knees")).toBe("on knees");
  expect(forms.titleOf("press-ups", "knees", "full")).toBe(
    t("formLastTimeLast", { form: "on knees", last: "on full" }),
  );
});

it("turns where there is more than one form, and says how many a choice for all would change", () => {
  const one = useVariants(() => VARIANTS.slice(1));
  const cy = doer("cy", { at: "one form" });
  one.turn(cy);
  expect(one.of(cy)).toBe("full");
  const forms = useVariants(() => VARIANTS);
  const all = ["dot", "eve", "fay"].map((id) => doer(id, { at: "two forms" }));
  forms.turn(all[0]!);
  const withScore = doer("gus", { at: "two forms", empty: false });
  expect(forms.wouldChange([...all, withScore], "knees")).toBe(2);
});
