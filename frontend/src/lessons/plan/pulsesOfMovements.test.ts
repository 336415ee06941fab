import { expect, it } from "vitest";
import type { Schemas } from "../../api/client";
import { movementWithPulse, withChanged } from "./pulsesOfMovements";

type Entry = Schemas["BlockEntry"];
const KINDS = [
  {
    kind: "intervals",
    words: "Intervals",
    defaults: {
      movements: [
        { name: "star jumps", efforts: "25/15" },
        { name: "squats", efforts: "9" },
      ],
    },
  },
  { kind: "pulse", words: "Pulse check", defaults: { count_seconds: 10 } },
] as unknown as Schemas["KindRow"][];
const labels = (blocks: Entry[]) => blocks.map((one) => one.label);

it("adds a movement with its pulse as one thing", () => {
  const made = movementWithPulse(KINDS);
  expect(labels(made)).toEqual(["Star jumps", "Pulse after star jumps"]);
  expect(made[0]?.movements).toEqual([{ name: "star jumps", efforts: "25/15" }]);
});

it("renames the pulse with its movement, and no other", () => {
  const [movement, pulse] = movementWithPulse(KINDS) as [Entry, Entry];
  const blocks = [movement, pulse, { ...pulse }];
  const typed = { ...movement, movements: [{ name: "burpees", efforts: "25/15" }] };
  expect(labels(withChanged(blocks, 0, typed))).toEqual([
    "Burpees",
    "Pulse after burpees",
    "Pulse after star jumps",
  ]);
  const named = withChanged(blocks, 0, { ...movement, label: "Round one" });
  expect(labels(named).slice(0, 2)).toEqual(["Round one", "Pulse after round one"]);
  // A pulse with a name of its own keeps it.
  const own = withChanged([movement, { ...pulse, label: "How fast?" }], 0, typed);
  expect(labels(own)).toEqual(["Burpees", "How fast?"]);
});
