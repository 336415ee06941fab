/** A protocol in the editor: what is typed, and what of it is sent. */
import { expect, it } from "vitest";
import { onPage } from "../testing/page";
import { useProtocol } from "./useProtocol";

async function begin(isNew = true) {
  const page = await onPage(() => useProtocol(isNew));
  return page.it;
}

it("sends lines as a list, and a field that was emptied as none", async () => {
  const it = await begin();
  it.lines.say = " Feet behind the line. \n\n Arms straight. ";
  Object.assign(it.form, { cap: "", seconds: "60", target_mm: undefined });
  Object.assign(it.conditions, { box_mm: "30 cm", course_mm: "  " });
  expect(it.asked.value).toMatchObject({
    say: ["Feet behind the line.", "Arms straight."],
    counts: [],
    ...{ cap: null, seconds: 60, target_mm: null },
    conditions: { box_mm: "30 cm" },
  });
});

it("stands as a test has it, lengths as they are typed", async () => {
  const it = await begin(false);
  const protocol = {
    ...{ kind: "distance", unit: "cm", say: ["Jump."], counts: [], cautions: ["Dry floor."] },
    ...{ conditions: { box_mm: 300, side: "left" }, variants: [{ code: "two", name: "two feet" }] },
  };
  it.fill({ family: "jumps", protocol }, "Long jump");
  expect([it.name.value, it.family.value, it.lines.say, it.lines.cautions]).toEqual([
    ...["Long jump", "jumps", "Jump.", "Dry floor."],
  ]);
  expect({ ...it.conditions }).toEqual({ box_mm: "300mm", side: "left" });
  // What is changed here is not changed there.
  it.variants.value = [];
  expect(protocol.variants).toHaveLength(1);
  expect(it.asked.value.variants).toEqual([]);
});

it("takes the units of another kind, and what such a test varies by where it is new", async () => {
  const it = await begin();
  it.form.kind = "time";
  it.form.bounds_by_age = [{ from_age: 4, lowest: 1, highest: 2 } as never];
  const { default_typical_error: before } = it.form;
  it.kindChosen();
  expect([it.units.value.includes(it.form.unit), it.form.bounds_by_age]).toEqual([true, []]);
  expect(it.form.default_typical_error).not.toBe(before);
  const copy = await begin(false);
  copy.form.kind = "time";
  copy.kindChosen();
  expect(copy.form.default_typical_error).toBe(before);
});
