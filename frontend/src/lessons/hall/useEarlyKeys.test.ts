/** What is typed while a sheet is on its way goes into it; nothing else is taken away. */
import { mount } from "@vue/test-utils";
import { afterEach, describe, expect, it } from "vitest";
import { ref } from "vue";
import { KEPT } from "../../sheet/useHold";
import { useEarlyKeys } from "./useEarlyKeys";

const pages: { unmount(): void }[] = [];
afterEach(() => {
  for (const page of pages.splice(0)) page.unmount();
  document.body.innerHTML = "";
});

function hall() {
  const early = ref("");
  const coming = ref(true);
  pages.push(
    mount({
      setup: () => {
        useEarlyKeys(early, () => coming.value);
        return () => null;
      },
    }),
  );
  /** Whether the key was taken. */
  const press = (key: string, more: KeyboardEventInit = {}, at: Element = document.body) =>
    !at.dispatchEvent(
      new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more }),
    );
  return { early, coming, press };
}

describe("keys that come early", () => {
  it("are kept in their order, with what was confirmed", () => {
    const { early, press } = hall();
    for (const key of ["1", "8", "Enter", "2", "1", "Backspace", "0"]) {
      expect(press(key), key).toBe(true);
    }
    expect(early.value).toBe(`18${KEPT}20`);
  });

  it.each(["Enter", "Backspace", "n", " ", "Tab", "ArrowDown"])("do not begin with %j", (key) => {
    const { early, press } = hall();
    expect(press(key)).toBe(false);
    expect(early.value).toBe("");
  });

  it("are the page's own as soon as the sheet is there, or with a control key", () => {
    const { early, coming, press } = hall();
    expect(press("5", { ctrlKey: true })).toBe(false);
    coming.value = false;
    expect(press("5")).toBe(false);
    expect(early.value).toBe("");
  });

  it("stay in the field or the dialog they are typed in", () => {
    const { early, press } = hall();
    document.body.innerHTML =
      '<input id="find"><div role="dialog"><button id="yes"></button></div><input id="cell" data-cell>';
    const at = (id: string) => document.getElementById(id)!;
    expect(press("7", {}, at("find"))).toBe(false);
    expect(press("7", {}, at("yes"))).toBe(false);
    expect(press("7", {}, at("cell"))).toBe(true);
    expect(early.value).toBe("7");
  });

  it("are not more than somebody types while a sheet comes", () => {
    const { early, press } = hall();
    for (let at = 0; at < 300; at += 1) press("1");
    expect(early.value.length).toBe(200);
  });
});
