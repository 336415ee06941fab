import { expect, it } from "vitest";
import { useVariants, type Doer } from "./useVariants";

const VARIANTS = ["knees", "full"].map((code) => ({
  code,
  name: code,
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
