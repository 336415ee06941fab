import { expect, it } from "vitest";
import { ask, asked } from "./ask";

const QUESTION = { title: "Remove it?", words: "Its scores stay.", yes: "Remove" };

it("is one question at a time: a newer one answers the older with no", async () => {
  const first = ask(QUESTION);
  const second = ask({ ...QUESTION, title: "Remove all?" });
  expect([await first, asked.value?.title]).toEqual([false, "Remove all?"]);
  asked.value?.answer(true);
  expect([await second, asked.value]).toEqual([true, null]);
});
