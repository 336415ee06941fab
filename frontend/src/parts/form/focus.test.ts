/** Who has the keyboard: what only arrives does not take it from what somebody aimed at. */
import { beforeEach, expect, it } from "vitest";
import { isAimed, toNextField, vFocus } from "./focus";

beforeEach(() => {
  document.body.innerHTML = `<p id="text"></p><button id="one"></button><button id="two"></button>
    <table><tr><td><input id="a" /></td><td><input id="b" value="12" /></td></tr></table>`;
});
async function frames() {
  for (let more = 3; more; more--) await new Promise(requestAnimationFrame);
}
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

it("puts it into the field of what appears, and never again: who went on stays there", async () => {
  const row = document.querySelector("table") as unknown as HTMLElement;
  vFocus.mounted(row);
  expect(document.activeElement).toBe(at("a"));
  at("b").focus();
  await frames();
  expect(document.activeElement).toBe(at("b"));
});

it("waits for a dialog that opens, but takes nobody's typing away", async () => {
  at("one").focus();
  at("a").disabled = true;
  vFocus.mounted(at("a"));
  await frames();
  expect(document.activeElement).toBe(at("one"));
  // The dialog takes the focus itself, and shows its fields.
  document.getElementById("two")?.focus();
  at("a").disabled = false;
  await frames();
  expect(document.activeElement).toBe(at("a"));

  at("a").disabled = true;
  vFocus.mounted(at("a"));
  at("b").focus();
  at("a").disabled = false;
  await frames();
  expect(document.activeElement).toBe(at("b"));
});
