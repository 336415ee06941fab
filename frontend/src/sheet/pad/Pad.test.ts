import { mount } from "@vue/test-utils";
import { describe, expect, it } from "vitest";
import Pad from "./Pad.vue";

function pad(kind: string, typed = "", of: number | null = null) {
  const reasons = [{ key: "a", code: "absent", words: "absent" }];
  return mount(Pad, {
    props: {
      name: "Ada",
      typed,
      kind,
      of,
      reasons,
      variant: "",
      wave: null,
      tryWords: "",
    },
  });
}
const labels = (kind: string) =>
  pad(kind)
    .findAll("button")
    .map((button) => button.attributes("aria-label") ?? button.text());

describe("the pad", () => {
  it.each([
    ["time", [":", "."]],
    ["marks", [".", "Space"]],
    ["offset", ["-", "+"]],
    ["total", ["+", "c"]],
    ["pulse", ["/"]],
  ])("has the keys that a %s needs", (kind, keys) => {
    expect(labels(kind)).toEqual(expect.arrayContaining([...keys, "0", "9", "Estimate"]));
  });

  it("has only digits for a count", () => {
    expect(labels("count")).not.toContain(".");
  });

  it("asks each side as one press", async () => {
    const sides = pad("sides");
    expect(labels("sides")).not.toContain("7");
    await sides
      .findAll("button")
      .find((one) => one.text() === "left only")
      ?.trigger("click");
    expect(sides.emitted("type")).toEqual([["y n"]]);
  });

  it("takes hits shot by shot and no more than there are", async () => {
    const shots = pad("hits", "xo", 3);
    expect(shots.get("[data-testid=pad-typed]").text()).toBe("1 of 2");
    await shots
      .findAll("button")
      .find((one) => one.text().includes("hit"))
      ?.trigger("click");
    expect(shots.emitted("type")).toEqual([["xox"]]);
    const full = pad("hits", "xox", 3);
    await full
      .findAll("button")
      .find((one) => one.text().includes("hit"))
      ?.trigger("click");
    expect(full.emitted("type")).toBeUndefined();
  });

  it("saves what is typed, and otherwise goes on", () => {
    expect(pad("count", "12").get("button.save").text()).toBe("Save");
    expect(pad("count").get("button.save").text()).toBe("Next");
  });
});
