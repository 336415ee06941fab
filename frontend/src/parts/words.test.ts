import { afterEach, describe, expect, it, vi } from "vitest";
import { counted, several } from "./words";

afterEach(() => vi.unstubAllEnvs());

describe.each(["Europe/London", "Pacific/Auckland", "Pacific/Honolulu"])("in %s", (zone) => {
  /** The words of a device that stands in that zone. */
  async function there() {
    vi.stubEnv("TZ", zone);
    vi.resetModules();
    return import("./words");
  }

  it("a day is that day", async () => {
    const { dayWords, shortDay } = await there();
    expect(dayWords("2026-10-23")).toBe("Friday 23 October");
    expect(shortDay("2026-10-23")).toBe("23 Oct 2026");
  });

  it("the days of a week are all of them, whatever the clocks do", async () => {
    const { daysThrough } = await there();
    const days = ["2026-10-23", "2026-10-24", "2026-10-25", "2026-10-26"];
    expect(daysThrough("2026-10-23", "2026-10-26")).toEqual(days);
    expect(daysThrough("2026-10-23", "2026-10-23")).toEqual(["2026-10-23"]);
    expect(daysThrough("", "")).toEqual([]);
  });
});

it.each([
  ["mat", "mats"],
  ["bench", "benches"],
  ["box", "boxes"],
  ["bean bag", "bean bags"],
  ["entry", "entries"],
  ["tray", "trays"],
])("says several of %s as %s", (one, many) => {
  expect(several(one)).toBe(many);
  expect(counted(1, one)).toBe(`1 ${one}`);
  expect(counted(2, one)).toBe(`2 ${many}`);
});
