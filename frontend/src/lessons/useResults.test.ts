import { expect, it } from "vitest";
import { activity, board, ClassServer } from "../testing/hall";
import { onPage, sent, settled, until } from "../testing/page";
import { useTest } from "../sheet/useTest";
import type { Job } from "../sync/jobs";
import { useResults, withUnsent } from "./useResults";

it("is asked anew once after several scores, and not for what was not taken", async () => {
  const server = new ClassServer(board()).refuses("99");
  server.on("GET", "/api/lessons/{lesson_id}/results", () => ({ tests: [], missing: 0 }));
  const page = await onPage(() => ({
    test: useTest(() => activity()),
    results: useResults("lesson").page,
  }));
  const { test } = page.it;
  const asked = () => server.of("GET", "results").length;
  expect(asked()).toBe(1);
  test.write(test.rows.value[0]!, 1, "99");
  await sent();
  test.writeAll(test.rows.value.slice(1).map((row) => ({ row, slot: 1, typed: "18" })));
  await sent();
  expect(asked()).toBe(1);
  await until(() => asked() > 1);
  await settled();
  expect(asked()).toBe(2);
});

it("counts what is on its way from this device, and not what was refused or undone", () => {
  const test = { test: "Press-ups", kind: "count", private: false, odd: 0 };
  const page = {
    ...{ lesson_id: "lesson", missing: 5, odd: 0, pulses: 0, pulse_blanks: [] },
    tests: [
      { ...test, activity_id: "a", recorded: 1, missing: 3, without: ["x", "y", "z"] },
      { ...test, activity_id: "b", recorded: 2, missing: 2, without: ["x", "y"] },
    ],
  } as Parameters<typeof withUnsent>[0];
  const job = (pupil_id: string, more: object = {}) =>
    ({ kind: "attempt", at: "a", body: { pupil_id, typed: "9", ...more } }) as Job;
  const refused = { ...job("z"), refusal: { message: "no" } } as Job;
  const undone = [job("y"), job("y", { withdrawn: true })];
  const corrected = job("of the others");
  const seen = withUnsent(page, [job("x"), refused, ...undone, corrected]);
  expect(seen.missing).toBe(4);
  expect(seen.tests.map((one) => [one.recorded, one.missing])).toEqual([
    [2, 2],
    [2, 2],
  ]);
});
