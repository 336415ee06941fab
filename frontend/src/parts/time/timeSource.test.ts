import { beforeEach, describe, expect, it, vi } from "vitest";

const HOUR = 3_600_000;

/** The module as a page has it that was just opened. */
async function opened() {
  vi.resetModules();
  return import("./timeSource");
}

describe("the time all devices keep to", () => {
  beforeEach(() => localStorage.clear());

  it("is the server's, however wrong the device's own clock is, and after a reload", async () => {
    const page = await opened();
    const asked = page.ownTime();
    page.keepTo(asked + HOUR + 40, asked, asked + 80);
    expect(page.now() - page.ownTime()).toBeCloseTo(HOUR, -1);
    const again = await opened();
    expect(again.now() - again.ownTime()).toBeCloseTo(HOUR, -1);
  });

  it("does not twitch for what the network's delay explains", async () => {
    const page = await opened();
    const asked = page.ownTime();
    page.keepTo(asked + 600, asked, asked + 800);
    page.keepTo(asked + HOUR, asked, asked + 5_000);
    expect(page.now() - page.ownTime()).toBeCloseTo(0, -1);
  });

  it("finds its own clock put right", async () => {
    const page = await opened();
    const asked = page.ownTime();
    page.keepTo(asked - HOUR, asked, asked + 20);
    page.keepTo(asked + 10, asked, asked + 20);
    expect(page.now() - page.ownTime()).toBeCloseTo(0, -1);
  });
});
