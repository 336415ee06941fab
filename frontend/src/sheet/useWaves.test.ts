/** Who goes by a clock: the wave it was begun for, or everybody. */
import { beforeEach, expect, it } from "vitest";
import { ref } from "vue";
import { activity, board, ClassServer } from "../testing/hall";
import { heldClock, leave, onPage, settled } from "../testing/page";
import { useTest } from "./useTest";
import { useWaves } from "./useWaves";

beforeEach(() => {
  heldClock();
});

async function begin(waves: number) {
  new ClassServer(board({ waves }));
  const page = await onPage(() => {
    const go = ref(1);
    const test = useTest(() => activity());
    return { go, ...useWaves(() => activity(), test, "taps", go) };
  });
  const it = page.it;
  return { it, names: () => it.group.value.map((row) => row.child.name) };
}

it("is everybody where the test has one wave", async () => {
  const { it, names } = await begin(1);
  expect([it.wave.value, names()]).toEqual([null, ["Ada", "Ben", "Cy", "Dot"]]);
  expect(it.goKey()).toBe("1");
});

it("is the first wave to begin with, another or all by choice", async () => {
  const { it, names } = await begin(2);
  expect([it.wave.value, names()]).toEqual([1, ["Ada", "Cy"]]);
  it.toWave(2);
  expect([names(), it.goKey()]).toEqual([["Ben", "Dot"], "1.w2"]);
  it.toWave("all");
  expect([it.wave.value, names().length]).toEqual([null, 4]);
});

it("is the wave and the go whose clock ran last, after a reload", async () => {
  const first = await begin(2);
  first.it.toWave(2);
  first.it.go.value = 3;
  first.it.own.start();
  await settled();
  leave();
  const again = await begin(2);
  expect([again.it.wave.value, again.it.go.value, again.names()]).toEqual([2, 3, ["Ben", "Dot"]]);
});
