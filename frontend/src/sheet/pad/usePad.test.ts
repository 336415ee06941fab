import { expect, it, vi } from "vitest";
import { onPage } from "../../testing/page";
import { usePad } from "./usePad";

it.each([true, false])("is there by touch (%s) until somebody turns it", async (touch) => {
  const query = { matches: touch, addEventListener: vi.fn(), removeEventListener: vi.fn() };
  vi.stubGlobal("matchMedia", () => query);
  const page = await onPage(() => usePad());
  expect(page.it.pad.value).toBe(touch);
  page.it.turnPad();
  expect(page.it.pad.value).toBe(!touch);
  page.it.turnPad();
  expect(page.it.pad.value).toBe(touch);
  page.leave();
});
