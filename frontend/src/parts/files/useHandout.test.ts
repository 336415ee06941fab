/** A PDF on its way: begun once, asked after until it is there. */
import { t } from "../../messages/parts";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { ApiError, type Schemas } from "../../api/client";
import { onPage } from "../../testing/page";
import { Refused, TestServer } from "../../testing/server";
import { useHandout } from "./useHandout";

const made = (more: Partial<Schemas["Handout"]> = {}) =>
  ({ id: "one", ready: false, problem: "", done: 0, ...more }) as Schemas["Handout"];
beforeEach(() => vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] }));
afterEach(() => {
  vi.useRealTimers();
});

async function begin() {
  const server = new TestServer();
  const page = await onPage(() => useHandout());
  return { server, handout: page.it };
}
const later = () => vi.advanceTimersByTimeAsync(400);

it("is asked after until it is ready, and not begun twice meanwhile", async () => {
  const { server, handout } = await begin();
  const make = vi.fn(() => Promise.resolve(made()));
  server.on("GET", "/api/handouts/{handout_id}", () => made({ ready: server.asked.length === 2 }));
  await handout.begin(make);
  await handout.begin(make);
  expect([make.mock.calls.length, handout.busy.value]).toEqual([1, true]);
  await later();
  expect(handout.busy.value).toBe(true);
  await later();
  expect([handout.busy.value, handout.current.value?.ready]).toEqual([false, true]);
  await later();
  expect(server.asked).toHaveLength(2);
});

it("goes on being made without a network, and is made once more by a server begun anew", async () => {
  const { server, handout } = await begin();
  await handout.begin(() => Promise.resolve(made()));
  server.down = true;
  await later();
  expect([handout.busy.value, handout.problem.value]).toEqual([true, ""]);
  server.down = false;
  server.on("GET", "/api/handouts/{handout_id}", () => {
    throw new Refused(404);
  });
  await later();
  expect([handout.busy.value, handout.problem.value]).toEqual([
    false,
    t("theServerRestartedWhileTheFile"),
  ]);
});

it("says why it was not begun, and can be begun again", async () => {
  const { handout } = await begin();
  await handout.begin(() => Promise.reject(new ApiError(429, "Too many at once.")));
  expect([handout.problem.value, handout.busy.value]).toEqual(["Too many at once.", false]);
  await handout.begin(() => Promise.resolve(made({ ready: true })));
  expect([handout.problem.value, handout.current.value?.ready]).toEqual(["", true]);
});
