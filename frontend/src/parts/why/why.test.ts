import { expect, it, vi } from "vitest";
import { askedWhy, askWhy, endWhy } from "./why";

it("is asked about one score, and the typing goes on where it was", () => {
  vi.useFakeTimers();
  document.body.innerHTML = `<input id="cell" /><button id="close"></button>`;
  const cell = document.getElementById("cell");
  cell?.focus();
  askWhy("score");
  expect(askedWhy.value).toBe("score");
  document.getElementById("close")?.focus();
  endWhy();
  vi.runAllTimers();
  expect([askedWhy.value, document.activeElement]).toEqual([null, cell]);
  vi.useRealTimers();
});
