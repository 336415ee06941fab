import { expect, it } from "vitest";
import type { Entry, EntryOf } from "./blocks";
import { movementWithPulse, withChanged } from "./pulsesOfMovements";

const labels = (blocks: Entry[]) => blocks.map((one) => one.label);

it("adds a movement with its pulse as one thing", () => {
  const made = movementWithPulse();
  expect(labels(made)).toEqual(["Star jumps", "Pulse after star jumps"]);
  expect((made[0] as EntryOf<"intervals">).movements).toHaveLength(1);
});

it("renames the pulse with its movement, and no other", () => {
  const [movement, pulse] = movementWithPulse() as [EntryOf<"intervals">, EntryOf<"pulse">];
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
