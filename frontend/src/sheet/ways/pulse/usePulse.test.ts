/** Everybody's pulse: beats down the class, one moment after the other. */
import { expect, it } from "vitest";
import { begin as beginPulses, type PulseServer } from "../../../testing/pulses";
import { onPage, sent, type } from "../../../testing/page";
import { usePulse } from "./usePulse";

async function begin() {
  const server: PulseServer = beginPulses();
  const page = await onPage(() => usePulse("lesson"), "/lessons/lesson/hall");
  return { server, pulse: page.it };
}

it("keeps beats with the seconds they were counted in, down the class and on to the next moment", async () => {
  const { server, pulse } = await begin();
  pulse.seconds.value = 15;
  type(pulse, "20⏎");
  expect(pulse.moment.value?.label).toBe("Rest");
  type(pulse, "22⏎");
  await sent();
  expect(server.kept.map((one) => [one.pupil_id, one.typed, one.seconds, one.position])).toEqual([
    ["ada", "20", 15, 0],
    ["ben", "22", 15, 0],
  ]);
  // On to the next moment, where nobody is in yet.
  expect([pulse.moment.value?.label, pulse.done.value]).toEqual(["Star jumps", 0]);
  type(pulse, "40⏎");
  await sent();
  expect(server.kept.at(-1)).toMatchObject({ pupil_id: "ada", position: 1, moment: "activity" });
});

it("says how long somebody had rested only of a count of recovery", async () => {
  const { server, pulse } = await begin();
  pulse.waited.value = 60;
  type(pulse, "20⏎");
  pulse.choose(2);
  type(pulse, "30⏎");
  await sent();
  expect(server.kept.map((one) => [one.moment, one.waited])).toEqual([
    ["rest", null],
    ["recovery", 60],
  ]);
});

it("asks about a pulse hardly to be believed, and keeps that it is right", async () => {
  const { server, pulse } = await begin();
  server.asksAbout("9");
  type(pulse, "9⏎");
  await sent();
  expect(pulse.hold.matter.value?.kind).toBe("asked");
  pulse.right();
  await sent();
  expect(server.kept.map((one) => [one.typed, one.confirmed])).toEqual([
    ["9", false],
    ["9", true],
  ]);
  expect(pulse.hold.matter.value).toBeNull();
});

it("adds a moment that no pulse was kept of, and takes one press of belts back in one", async () => {
  const { server, pulse } = await begin();
  pulse.addMoment("Star jumps");
  expect(pulse.moments.value.at(-1)).toMatchObject({ position: 3, words: "After Star jumps" });
  pulse.takeBelts([
    { pupilId: "ada", bpm: 140 },
    { pupilId: "ben", bpm: 151 },
  ]);
  await sent();
  expect(server.kept.map((one) => [one.typed, one.seconds, one.position, one.label])).toEqual([
    ["140", 60, 3, "Star jumps"],
    ["151", 60, 3, "Star jumps"],
  ]);
  pulse.takeBack();
  await sent();
  expect(server.kept.slice(2).map((one) => one.withdrawn)).toEqual([true, true]);
  expect(pulse.done.value).toBe(0);
});
