import { VueQueryPlugin } from "@tanstack/vue-query";
import { mount } from "@vue/test-utils";
import { beforeEach, expect, it, vi } from "vitest";
import { computed, defineComponent, h, nextTick, ref, shallowRef } from "vue";
import { provideFrame, type Frame } from "./frame";
import { keyOf, type Cell, type Entry, type Place } from "./types";
import { useTyping, type Typing } from "./useTyping";
import type { Sheet } from "./useSheet";

const NAMES = ["Ada", "Ben", "Cai", "Dov", "Eli"];
const PLACES: Place[] = NAMES.map((name) => ({ pupilId: name, at: "reps", slot: 1 }));
let at = 10_000;
beforeEach(() => {
  at += 10_000;
  vi.spyOn(performance, "now").mockImplementation(() => (at += 1_000));
});

/** Five children in one column; `adds` where the typing comes to everybody, as reps are added. */
function begin(adds: boolean) {
  const written: [string, string][] = [];
  const refused = shallowRef<{ job: { id: string }; place: Place }[]>([]);
  const sheet = {
    refused: computed(() => refused.value),
    questions: ref([]),
    cell: () => ({ refusal: { choices: [], sure: false } }),
    write: (changes: { place: Place; entry: Entry | null }[]) => {
      for (const { place, entry } of changes) {
        written.push([place.pupilId, entry?.typed ?? ""]);
        refused.value = refused.value.filter((one) => keyOf(one.place) !== keyOf(place));
      }
    },
    takeBack: () => null,
    leaveOpen: () => "left",
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
  const here = () => (typing!.cursor.rested.value ? "" : NAMES[typing!.cursor.row.value]);
  return { written, key, number, refuse, here, typing: typing!, frame: frame! };
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
