import { computed, effectScope, shallowRef } from "vue";
import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Place, Question } from "./types";
import { ANSWERS_AFTER_MS, KEPT, useHold } from "./useHold";
import type { Sheet } from "./useSheet";

const ADA: Place = { pupilId: "ada", at: "press-ups", slot: 1 };
const BEN: Place = { pupilId: "ben", at: "press-ups", slot: 1 };
let at = 10_000;

/** A sheet as far as what is asked of it goes. */
function sheetOf() {
  const refused = shallowRef<{ job: { id: string }; place: Place }[]>([]);
  const questions = shallowRef<Question[]>([]);
  const sheet = {
    refused: computed(() => refused.value),
    questions: computed(() => questions.value),
    cell: () => ({ refusal: { choices: [], sure: true } }),
    settle: vi.fn(),
    resend: vi.fn(),
    letGo: vi.fn(),
  };
  return { refused, questions, sheet: sheet as unknown as Sheet, asked: sheet };
}
function begin() {
  const world = sheetOf();
  const hold = effectScope(true).run(() => useHold(world.sheet))!;
  return { ...world, hold };
}
const question = (place: Place): Question => ({
  place,
  entryId: `asked ${place.pupilId}`,
  shown: "240",
  flags: [{ code: "far", words: "Far from this child's own scores." }],
});

beforeEach(() => {
  at += 10_000;
  vi.spyOn(performance, "now").mockImplementation(() => at);
});

describe("what holds the typing", () => {
  it("is the newest entry that is not taken, and nothing from before the page was opened", () => {
    const world = sheetOf();
    world.refused.value = [{ job: { id: "old" }, place: ADA }];
    const hold = effectScope(true).run(() => useHold(world.sheet))!;
    expect(hold.matter.value).toBeNull();
    expect(hold.open.value).toBe(1);
    world.refused.value = [...world.refused.value, { job: { id: "new" }, place: BEN }];
    expect(hold.matter.value).toMatchObject({ kind: "refused", place: BEN });
    hold.postpone();
    expect(hold.matter.value).toBeNull();
    expect(hold.open.value).toBe(2);
    hold.reopen();
    expect(hold.matter.value).toMatchObject({ place: ADA });
  });

  it("stays what was read, whatever comes meanwhile", () => {
    const { hold, refused, questions } = begin();
    questions.value = [question(ADA)];
    expect(hold.matter.value).toMatchObject({ kind: "asked", place: ADA });
    refused.value = [{ job: { id: "no" }, place: BEN }];
    expect(hold.matter.value).toMatchObject({ kind: "asked", place: ADA });
    hold.postpone();
    expect(hold.matter.value).toMatchObject({ kind: "refused", place: BEN });
  });

  it("waits while an answer is typed, and what was held waits with it", () => {
    const { hold, refused, questions } = begin();
    refused.value = [{ job: { id: "no" }, place: ADA }];
    hold.hold("24");
    hold.correcting.value = "press-ups ada 1";
    questions.value = [question(BEN)];
    expect(hold.matter.value).toBeNull();
    expect(hold.held.value).toEqual(["24"]);
    refused.value = [];
    hold.correcting.value = null;
    expect(hold.matter.value).toMatchObject({ kind: "asked", place: BEN });
    expect(hold.right()).toBe(true);
    expect(hold.matter.value).toMatchObject({ kind: "aside" });
  });

  it.each([
    ["at once", 100, false],
    ["late enough to be meant", ANSWERS_AFTER_MS + 1, true],
  ])("is answered by a lone Enter or Backspace %s: %s ms", (_words, after, answers) => {
    for (const key of ["enter", "backspace"] as const) {
      const { hold, questions } = begin();
      questions.value = [question(ADA)];
      at += after;
      expect(hold[key]()).toBe(answers);
    }
  });

  it("takes Enter and Backspace for keys of an entry while one is held", () => {
    const { hold, questions } = begin();
    questions.value = [question(ADA)];
    at += 5_000;
    hold.hold("2");
    hold.hold("3");
    expect(hold.enter()).toBe(false);
    expect(hold.enter()).toBe(false); // a second press ends no second entry
    hold.hold("27");
    expect(hold.held.value).toEqual(["23", "27"]);
    for (let left = 5; left > 0; left -= 1) expect(hold.backspace()).toBe(false);
    expect(hold.held.value).toEqual([]);
    expect(hold.backspace()).toBe(false); // the hand that rubs out goes on a moment too long
    at += 5_000;
    expect(hold.backspace()).toBe(true);
  });

  it("gives all that was held, with its ends, once", () => {
    const { hold } = begin();
    hold.hold("23");
    hold.enter();
    hold.hold("4");
    expect(hold.takeHeld()).toEqual(["2", "3", KEPT, "4"]);
    expect(hold.takeHeld()).toEqual([]);
    expect(hold.matter.value).toBeNull();
  });

  it("asks anew where a correction is wrong again", () => {
    const { hold, refused } = begin();
    refused.value = [{ job: { id: "no" }, place: ADA }];
    hold.correcting.value = "press-ups ada 1";
    hold.refuse({ place: ADA, typed: "9x", message: "No.", accepted: "0 to 60.", sure: false });
    expect(hold.matter.value).toMatchObject({ kind: "local", place: ADA });
    expect(hold.canBeRight.value).toBe(false);
  });
});

describe("what is decided of an entry that is not taken", () => {
  it("is another reading of it, or that it is let go of; of a question, nothing", () => {
    const { hold, refused, questions, asked } = begin();
    hold.decide({ typed: "24" }); // nothing is asked
    questions.value = [question(BEN)];
    hold.decide({ typed: "24" });
    hold.decide(null);
    expect([asked.resend, asked.letGo].map((one) => one.mock.calls.length)).toEqual([0, 0]);
    hold.postpone();
    refused.value = [{ job: { id: "no" }, place: ADA }];
    hold.decide({ over: true });
    expect(asked.resend).toHaveBeenCalledExactlyOnceWith(ADA, { over: true });
    hold.decide(null);
    expect(asked.letGo).toHaveBeenCalledExactlyOnceWith(ADA);
  });
});
