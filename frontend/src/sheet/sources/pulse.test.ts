/** A lesson's pulses: what stands at a moment, and what an entry of one is. */
import { expect, it } from "vitest";
import { ref } from "vue";
import type { Schemas } from "../../api/client";
import { begin as beginPulses } from "../../testing/pulses";
import { onPage, sent, until } from "../../testing/page";
import { useSheet } from "../useSheet";
import { usePulses } from "./pulse";

async function begin() {
  const server = beginPulses();
  const formula = ref<"tanaka" | "220">("tanaka");
  const page = await onPage(() => {
    const pulses = usePulses("lesson", formula);
    return { ...pulses, sheet: useSheet(pulses.source) };
  });
  const place = (pupilId: string, slot: number) => ({ pupilId, at: "lesson", slot });
  return { server, formula, place, ...page.it };
}

it("shows a reading at its moment, undone or not", async () => {
  const { sheet, place } = await begin();
  const at = place("ada", 1);
  sheet.write([{ place: at, entry: { typed: "25", seconds: 10 } }]);
  await sent();
  expect(sheet.cell(at)).toMatchObject({ typed: "25", shown: "150", stands: true, state: "saved" });
  expect(sheet.cell(place("ada", 0)).state).toBe("empty");
  sheet.takeBack();
  await sent();
  expect(sheet.cell(at)).toMatchObject({ stands: false, state: "empty" });
  // What was undone is what the next one succeeds.
  expect(sheet.cell(at).head).not.toBeNull();
});

it("sends a moment by its place, name and rest, and ten seconds where nobody said", async () => {
  const { source, place, added } = await begin();
  added.value.push({
    ...{ position: 3, moment: "activity", label: "Hops", words: "After Hops", n: 0, median: null },
  });
  const body = (slot: number) =>
    source.job(place("ada", slot), { typed: "25", waited: 30 }).body as Schemas["NewPulse"];
  expect([0, 2, 3].map((slot) => [body(slot).moment, body(slot).label, body(slot).waited])).toEqual(
    [
      ["rest", "Rest", null],
      ["recovery", "Walk", 30],
      ["activity", "Hops", null],
    ],
  );
  expect(body(0).seconds).toBe(10);
});

it("asks the sums again after an entry, and by another formula at once", async () => {
  const { server, formula, sheet, place } = await begin();
  sheet.write([{ place: place("ada", 0), entry: { typed: "12" } }]);
  await sent();
  await until(() => server.of("GET", "pulse").length >= 2);
  formula.value = "220";
  await until(() => server.of("GET", "pulse").at(-1)?.query.get("formula") === "220");
});
