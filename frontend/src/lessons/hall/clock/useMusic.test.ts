/** The teacher's own sound: it begins, goes on and ends with the block it is under. */
import { beforeEach, expect, it, vi } from "vitest";
import type { Timeline } from "./conductor";
import { useMusic } from "./useMusic";

const played: string[] = [];
vi.mock("../../../parts/sound/music", () => ({
  soundOf: (block: string) =>
    block === "broken" ? Promise.reject(new Error("gone")) : Promise.resolve({ bytes: block }),
  decoded: (bytes: unknown) => Promise.resolve(bytes),
}));
vi.mock("../../../parts/sound/sound", () => ({
  playFile: (file: unknown, ms: number, lasts: number) => {
    played.push(`${String(file)} in ${ms} for ${lasts}`);
    return () => void played.push(`${String(file)} ends`);
  },
}));
const segment = (id: string, block: number, from_ms: number, to_ms: number) => ({
  ...{ id, block, from_ms, to_ms, phase: "work" as const, label: "", wave: 0, try_number: 1 },
});
const PLAN = {
  segments: [
    segment("a", 0, 0, 10_000),
    segment("b", 1, 10_000, 20_000),
    segment("c", 2, 20_000, 30_000),
  ],
  blocks: [
    { kind: "warm_up", id: "talk" },
    { kind: "beats", id: "dance" },
    { kind: "beats", id: "broken" },
  ],
} as unknown as Timeline;

beforeEach(() => (played.length = 0));

it("begins on its beat, and once", async () => {
  const music = useMusic();
  await music.fetch(PLAN);
  music.follow(PLAN, 9_000, 9_500);
  expect(played).toEqual([]);
  music.follow(PLAN, 9_600, 10_100);
  music.follow(PLAN, 9_700, 10_200);
  expect(played).toEqual(["dance in 400 for 10000"]);
});

it("goes on from where the clock is after a reload, and ends with its block", async () => {
  const music = useMusic();
  await music.fetch(PLAN);
  music.follow(PLAN, 14_000, 14_500);
  music.follow(PLAN, 20_100, 20_600);
  expect(played).toEqual(["dance in -4000 for 6000", "dance ends"]);
});

it("ends when the clock stands, and begins again with it", async () => {
  const music = useMusic();
  await music.fetch(PLAN);
  music.follow(PLAN, 11_000, 11_500);
  music.stop();
  music.stop();
  music.follow(PLAN, 12_000, 12_500);
  expect(played).toEqual(["dance in -1000 for 9000", "dance ends", "dance in -2000 for 8000"]);
});

it("leaves a block without a file to the tones, and a plan that is not there alone", async () => {
  const music = useMusic();
  await music.fetch(null);
  await music.fetch(PLAN);
  music.follow(PLAN, 21_000, 21_500);
  music.follow(PLAN, 5_000, 5_500);
  expect(played).toEqual([]);
});
