/** A gate's lines: each passage once, whatever comes late, fails or is heard twice. */
import { t } from "../../../messages/sheet";
import { mount } from "@vue/test-utils";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ref } from "vue";
import { client } from "../../../api/client";
import { useGate } from "./useGate";

/** Lines of the gate, by the millisecond at which it sends them. */
const SENT: [number, string][] = [
  [500, "ada"],
  [1_500, "ben"],
  [2_500, "??"],
  [3_500, "cy"],
];
let at = 0;
let down = false;
let heard: [number, number][] = [];
const source = {
  lines(since: number, until: number) {
    heard.push([since, until]);
    if (down) return Promise.reject(new Error("no answer"));
    return Promise.resolve(
      SENT.filter(([ms]) => ms > since && ms <= until).map(([ms, who]) => `${who} ${ms}`),
    );
  },
};
/** What the rules read of the lines, as far as these go. */
const read = (lines: string[]) =>
  lines.map((line) => {
    const [who, ms] = line.split(" ");
    return who === "??"
      ? { pupil_id: null, at_ms: null, problem: `“${line}” is not a passage.` }
      : { pupil_id: who, at_ms: Number(ms), problem: "" };
  });

beforeEach(() => {
  vi.useFakeTimers();
  [at, down, heard] = [0, false, []];
  window.laufTimeSource = () => at;
  vi.spyOn(client, "POST").mockImplementation(((_path: string, asked: { body: unknown }) =>
    Promise.resolve({
      data: read((asked.body as { lines: string[] }).lines),
      response: new Response(),
    })) as never);
});
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
  delete window.laufTimeSource;
});

function gate({ on = true } = {}) {
  const isOn = ref(on);
  const start = ref<number | null>(0);
  const passed: string[] = [];
  let said: ReturnType<typeof useGate> | undefined;
  const page = mount({
    setup: () => {
      said = useGate(
        "run",
        source,
        isOn,
        () => start.value,
        (pupil, ms) => passed.push(`${pupil} ${ms}`),
      );
      return () => null;
    },
  });
  return { isOn, start, passed, said: said!, page };
}
async function seconds(count: number) {
  for (let second = 0; second < count; second += 1) {
    at += 1_000;
    await vi.advanceTimersByTimeAsync(1_000);
  }
}

describe("a timing gate", () => {
  it("hands every passage on once and says which lines it left out", async () => {
    const { passed, said } = gate();
    await seconds(6);
    expect(passed).toEqual(["ada 500", "ben 1500", "cy 3500"]);
    expect(said.passages.value).toBe(3);
    expect(said.leftOut.value).toEqual(["“?? 2500” is not a passage."]);
    // Nothing of its clock is asked for twice, nor left out between two askings.
    for (const [index, [since]] of heard.entries()) expect(since).toBe(heard[index - 1]?.[1] ?? 0);
  });

  it("says that it is not heard, and loses nothing meanwhile", async () => {
    const { passed, said } = gate();
    down = true;
    await seconds(2);
    expect(passed).toEqual([]);
    expect(said.problem.value).toBe(t("lostContactWithTheGateProblem", { problem: "no answer" }));
    down = false;
    await seconds(2);
    expect(passed).toEqual(["ada 500", "ben 1500", "cy 3500"]);
    expect(said.problem.value).toBe("");
  });

  it("leaves alone what passed before it was switched on: that was tapped by hand", async () => {
    const { isOn, passed } = gate({ on: false });
    await seconds(2);
    expect(heard).toEqual([]);
    isOn.value = true;
    await seconds(2);
    expect(passed).toEqual(["cy 3500"]);
  });

  it("begins anew with another start", async () => {
    const { start, passed, said } = gate();
    await seconds(2);
    start.value = at;
    await seconds(1);
    expect(said.passages.value).toBe(1);
    expect(passed).toEqual(["ada 500", "ben 1500", "ada 500"]);
    start.value = null;
    const asked = heard.length;
    await seconds(3);
    expect(heard.length).toBe(asked);
  });
});
