import { expect, it, vi } from "vitest";
import { onPage, settled } from "../../testing/page";
import { useLitScreen } from "./useLitScreen";

it("keeps the screen lit from the press to the end, and never fails for it", async () => {
  const release = vi.fn(() => Promise.resolve());
  const sentinel = { release, addEventListener: vi.fn(), removeEventListener: vi.fn() };
  const request = vi.fn(() => Promise.resolve(sentinel));
  Object.defineProperty(navigator, "wakeLock", { configurable: true, value: { request } });
  Object.defineProperty(document, "visibilityState", { configurable: true, value: "visible" });
  const page = await onPage(() => useLitScreen());
  page.it.hold();
  await settled();
  expect(request).toHaveBeenCalledWith("screen");
  page.leave();
  await settled();
  expect(release).toHaveBeenCalledTimes(1);
  request.mockImplementation(() => Promise.reject(new Error("low battery")));
  const low = await onPage(() => useLitScreen());
  low.it.hold();
  await settled();
  low.leave();
});
