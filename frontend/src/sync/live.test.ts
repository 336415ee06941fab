import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { effectScope } from "vue";
import { unlessTold, useLive, type LiveEvent } from "./live";

class Stream {
  static readonly CLOSED = 2;
  static all: Stream[] = [];
  onmessage: ((event: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  readyState = 1;
  constructor(readonly address: string) {
    Stream.all.push(this);
  }
  says(event: object) {
    this.onmessage?.({ data: JSON.stringify(event) });
  }
  breaks(state: number) {
    this.readyState = state;
    this.onerror?.();
  }
  close() {
    this.readyState = Stream.CLOSED;
  }
}
beforeEach(() => {
  Stream.all = [];
  vi.stubGlobal("EventSource", Stream);
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
function follow() {
  const heard: LiveEvent[] = [];
  const scope = effectScope();
  const isTold = scope.run(() => useLive("/live", (event) => heard.push(event)));
  return { heard, isTold, end: () => scope.stop() };
}

it("asks for what it missed whenever it begins to be told, and asks by itself only meanwhile", () => {
  const { heard, isTold, end } = follow();
  const [stream] = Stream.all;
  expect(unlessTold(20_000)).toBe(20_000);
  stream?.says({ what: "hello" });
  expect([isTold?.value, unlessTold(20_000)]).toEqual([true, false]);
  stream?.says({ what: "score", activity: "a", pupil: "p" });
  expect(heard.map((one) => one.what)).toEqual(["gap", "score"]);
  // The browser comes again by itself.
  stream?.breaks(0);
  expect(unlessTold(20_000)).toBe(20_000);
  stream?.says({ what: "hello" });
  expect(heard.at(-1)?.what).toBe("gap");
  end();
  expect([stream?.readyState, unlessTold(20_000)]).toEqual([Stream.CLOSED, 20_000]);
});

it("comes again to a server that would not have it, and never after the screen is left", () => {
  const { end } = follow();
  Stream.all[0]?.breaks(Stream.CLOSED);
  vi.advanceTimersByTime(10_000);
  expect(Stream.all.length).toBe(2);
  Stream.all[1]?.breaks(Stream.CLOSED);
  end();
  vi.advanceTimersByTime(60_000);
  expect(Stream.all.length).toBe(2);
});
