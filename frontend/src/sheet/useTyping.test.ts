import { VueQueryPlugin } from "@tanstack/vue-query";
import { mount } from "@vue/test-utils";
import { beforeEach, expect, it, vi } from "vitest";
import { computed, defineComponent, h, nextTick, ref, shallowRef } from "vue";
import { provideFrame, type Frame } from "./frame";
import { keyOf, type Cell, type Entry, type Place } from "./types";
import { useTyping, type Typing } from "./useTyping";
import type { Sheet } from "./useSheet";
import type { Question } from "./types";
import type { Ground } from "./useTyping";

const NAMES = ["Ada", "Ben", "Cai", "Dov", "Eli"];
const PLACES: Place[] = NAMES.map((name) => ({ pupilId: name, at: "reps", slot: 1 }));
let at = 10_000;
beforeEach(() => {
  at += 10_000;
  vi.spyOn(performance, "now").mockImplementation(() => (at += 1_000));
});

/** Five children in one column; `adds` where the typing comes to everybody, as reps are added. */
function begin(adds: boolean, more: Partial<Ground> = {}) {
  const written: [string, string][] = [];
  const questions = ref<Question[]>([]);
  const said = { takeBack: vi.fn((): Place | null => null), leaveOpen: vi.fn(() => "left") };
  const refused = shallowRef<{ job: { id: string }; place: Place }[]>([]);
  const sheet = {
    refused: computed(() => refused.value),
    questions,
    letGo: vi.fn(),
    cell: () => ({ refusal: { choices: [], sure: false } }),
    write: (changes: { place: Place; entry: Entry | null }[]) => {
      for (const { place, entry } of changes) {
        written.push([place.pupilId, entry?.typed ?? ""]);
        refused.value = refused.value.filter((one) => keyOf(one.place) !== keyOf(place));
      }
    },
    ...said,
  } as unknown as Sheet;
  const cellAt = (row: number) =>
    ({
      place: PLACES[row],
      state: written.some(([name]) => name === NAMES[row]) ? "saved" : "empty",
      typed: "",
    }) as Cell;
  let typing: Typing | undefined;
  const Inner = defineComponent(() => {
    typing = useTyping({
      sheet,
      names: () => NAMES,
      columns: () => 1,
      cellAt,
      find: (place) => [NAMES.indexOf(place.pupilId), 0],
      form: () => ({
        activityId: null,
        quick: { pattern: "\\d+", lowest: null, highest: null },
        reasons: [],
        accepted: "a number",
        counts: null,
      }),
      changes: (row, _column, typed) => [{ place: PLACES[row]!, entry: { typed } }],
      ...(adds && { isEmpty: () => true }),
      along: ref(false),
      ...more,
    });
    return () => null;
  });
  let frame: Frame | undefined;
  mount(
    defineComponent(() => {
      frame = provideFrame(() => {});
      return () => h(Inner);
    }),
    { global: { plugins: [VueQueryPlugin] } },
  );
  const key = (pressed: string) => typing!.onKey(new KeyboardEvent("keydown", { key: pressed }));
  const number = (text: string) => {
    for (const digit of text) {
      key(digit);
      if (!typing!.hold.matter.value) typing!.entry.typed.value += digit;
    }
    key("Enter");
  };
  const refuse = (name: string) => {
    const place = PLACES[NAMES.indexOf(name)]!;
    refused.value = [...refused.value, { job: { id: `no ${name}` }, place }];
  };
  const ask = (name: string) => {
    const place = PLACES[NAMES.indexOf(name)]!;
    questions.value = [...questions.value, { place, entryId: name, shown: "", flags: [] }];
  };
  const here = () => (typing!.cursor.rested.value ? "" : NAMES[typing!.cursor.row.value]);
  return { written, key, number, refuse, ask, here, said, typing: typing!, frame: frame! };
}

it("takes what was typed while the hall turned to another sheet, once it has", async () => {
  const { written, typing, frame } = begin(false);
  typing.entry.typed.value = "1";
  frame.turning.value = true;
  frame.early.value = "2\n13\n1";
  await nextTick();
  expect(written).toEqual([]);
  frame.turning.value = false;
  await nextTick();
  expect(written).toEqual([
    ["Ada", "12"],
    ["Ben", "13"],
  ]);
  expect(typing.entry.typed.value).toBe("1");
  expect(frame.early.value).toBe("");
});

it.each([true, false])("goes on where it was called away from (reps are added: %s)", (adds) => {
  const { written, key, number, refuse, here } = begin(adds);
  number("11");
  number("12");
  number("13");
  refuse("Ada"); // its answer comes late
  number("14"); // typed on: held
  key("<");
  expect(here()).toBe("Ada");
  number("10");
  expect(here()).toBe("Dov");
  key(">"); // what was held goes to the next
  expect(written).toEqual([
    ["Ada", "11"],
    ["Ben", "12"],
    ["Cai", "13"],
    ["Ada", "10"],
    ["Dov", "14"],
  ]);
  expect(here()).toBe("Eli");
});

it("rests again where everybody was in", () => {
  const { key, number, refuse, here } = begin(true);
  for (const text of ["11", "12", "13", "14", "15"]) number(text);
  expect(here()).toBe("");
  refuse("Ben");
  key("<");
  number("2x");
  expect(here()).toBe("Ben"); // not taken here either
  key("<");
  key("Escape");
  number("20");
  expect(here()).toBe("");
});

it("stays where somebody goes meanwhile", () => {
  const { key, number, refuse, here } = begin(true);
  number("11");
  number("12");
  refuse("Ada");
  key("<");
  key("ArrowDown");
  number("22");
  expect(here()).toBe("Cai");
});

it("leaves the digits of a half-typed number with the child they are of", () => {
  const { typing, key, number, refuse, here, written } = begin(false);
  number("12");
  key("2");
  typing.entry.typed.value = "2";
  refuse("Ada");
  number("5");
  expect(here()).toBe("Ben");
  expect(typing.hold.held.value).toEqual(["25"]);
  key("<");
  number("13");
  key(">");
  expect(written).toEqual([
    ["Ada", "12"],
    ["Ada", "13"],
    ["Ben", "25"],
  ]);
});

it("goes by the arrows, to both ends, and aside where a row has columns", () => {
  const { key, here, typing } = begin(false, { columns: () => 2 });
  const at = () => [here(), typing.cursor.column.value];
  for (const [pressed, name, column] of [
    ["ArrowDown", "Ben", 0],
    ["ArrowRight", "Ben", 1],
    ["End", "Eli", 1],
    ["Home", "Ada", 1],
    ["ArrowLeft", "Ada", 0],
  ] as const) {
    key(pressed);
    expect([pressed, ...at()]).toEqual([pressed, name, column]);
  }
  // What was begun is not left by a key that moves in a text.
  typing.entry.typed.value = "1";
  for (const pressed of ["End", "ArrowRight", "Home"]) key(pressed);
  expect([...at(), typing.entry.typed.value]).toEqual(["Ada", 0, "1"]);
});

it("turns aside what has one column", () => {
  const turned: number[] = [];
  const { key, here, typing } = begin(false, { turnAside: (step) => void turned.push(step) });
  key("ArrowRight");
  key("ArrowLeft");
  typing.entry.typed.value = "1";
  key("ArrowRight");
  expect([turned, here()]).toEqual([[1, -1], "Ada"]);
});

it("opens at the first child that is there", () => {
  const { here } = begin(false, {
    cellAt: (row) => (row ? ({ place: PLACES[row], state: "empty", typed: "" } as Cell) : null),
  });
  expect(here()).toBe("Ben");
});

it("takes the pad for the keyboard, also while something is asked", () => {
  const turned: string[] = [];
  const { typing, number, refuse, here, written, said } = begin(false, {
    turnVariant: () => turned.push("variant"),
    turnWave: () => turned.push("wave"),
  });
  for (const pressed of ["1", "2", "back", "3", "save"]) typing.onPad(pressed);
  expect([written, here()]).toEqual([[["Ada", "13"]], "Ben"]);
  typing.onPad("variant");
  typing.onPad("wave");
  expect(turned).toEqual(["variant", "wave"]);
  number("14");
  refuse("Ada");
  for (const pressed of ["1", "5", "back", "6", "save", "7"]) typing.onPad(pressed);
  expect(typing.hold.held.value).toEqual(["16", "7"]);
  typing.onPadText("20"); // the whole of an entry
  expect(typing.hold.held.value).toEqual(["20"]);
  typing.onPad("undo");
  expect(said.takeBack).toHaveBeenCalledOnce();
  expect(written).toHaveLength(2);
});

it("says to whom goes what is held: from an entry that is not taken, the one after", () => {
  const { typing, key, number, refuse } = begin(true);
  expect(typing.nextName()).toBe("Ada");
  number("11");
  refuse("Ada");
  expect(typing.nextName()).toBe("Ben");
  key(">");
  number("2x");
  expect([typing.hold.matter.value?.kind, typing.nextName()]).toEqual(["local", "Cai"]);
  key(">");
  for (const text of ["13", "14", "15"]) number(text);
  expect(typing.nextName()).toBe("");
});

it("leaves an entry that is not taken open at its child, as it was typed", () => {
  const { typing, key, number, here, said } = begin(false);
  number("9x");
  key("<");
  expect([here(), typing.entry.typed.value]).toEqual(["Ada", "9x"]);
  key("Enter");
  number("12"); // held: it goes to the next
  key(">");
  expect(said.leaveOpen).toHaveBeenCalledWith(
    PLACES[0],
    { typed: "9x", variant: "" },
    { message: expect.any(String) as string, accepted: "a number" },
  );
  expect([typing.hold.matter.value, here()]).toEqual([null, "Cai"]);
});

it("leaves open what was to be put right and was walked away from, and asks the others", () => {
  const { typing, key, number, refuse, ask } = begin(true);
  for (const text of ["11", "12", "13", "14"]) number(text);
  const walkAway = () => {
    const now = typing.hold.matter.value;
    key("<");
    key("ArrowDown");
    return now && `${now.kind} ${now.place?.pupilId}`;
  };
  refuse("Ada");
  refuse("Ben");
  expect([walkAway(), walkAway(), typing.hold.matter.value]).toEqual([
    "refused Ada",
    "refused Ben",
    null,
  ]);
  ask("Cai");
  ask("Dov");
  expect([walkAway(), walkAway(), typing.hold.matter.value]).toEqual([
    "asked Cai",
    "asked Dov",
    null,
  ]);
  expect(typing.hold.open.value).toBe(4);
});

it("puts nothing right where nothing is asked, and a pressed cell that is asked about", () => {
  const { typing, number, refuse, here } = begin(false);
  number("11");
  typing.correct();
  expect(here()).toBe("Ben");
  refuse("Ada");
  typing.press(0, 0, new Event("click"));
  expect([here(), typing.hold.correcting.value]).toEqual(["Ada", keyOf(PLACES[0]!)]);
  typing.press(3, 0, new Event("click"));
  expect([here(), typing.hold.correcting.value]).toEqual(["Dov", null]);
});

it("gives what was held to the child that is asked about, where it was meant for it", () => {
  const { key, number, refuse, here, written } = begin(true);
  number("11");
  refuse("Ada");
  number("21");
  key("=");
  expect(written).toEqual([
    ["Ada", "11"],
    ["Ada", "21"],
  ]);
  expect(here()).toBe("Ben");
});
