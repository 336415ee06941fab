/** Who has the keyboard: what only arrives does not take it from what somebody aimed at. */
import { beforeEach, expect, it } from "vitest";
import { isAimed, toNextField, vFocus } from "./focus";

beforeEach(() => {
  document.body.innerHTML = `<p id="text"></p><button id="one"></button><button id="two"></button>
    <table><tr><td><input id="a" /></td><td><input id="b" value="12" /></td></tr></table>`;
});
const at = (id: string) => document.getElementById(id) as HTMLInputElement;

it("is aimed at a control that was gone to, until that was pressed", () => {
  expect(isAimed()).toBe(false);
  at("one").focus();
  expect(isAimed()).toBe(true);
  at("one").click();
  expect(isAimed()).toBe(false);
  at("two").focus();
  expect(isAimed()).toBe(true);
});

it("goes on to the next field and marks what stands there, not beyond the last", () => {
  const row = document.querySelector("table");
  const from = (id: string) => ({ target: at(id) }) as unknown as Event;
  expect(toNextField(row, from("a"))).toBe(true);
  expect(document.activeElement).toBe(at("b"));
  expect([at("b").selectionStart, at("b").selectionEnd]).toEqual([0, 2]);
  expect([toNextField(row, from("b")), toNextField(null, from("a"))]).toEqual([false, false]);
});

it("puts the cursor into what appears", () => {
  vFocus.mounted(at("a"));
  expect(document.activeElement).toBe(at("a"));
});
