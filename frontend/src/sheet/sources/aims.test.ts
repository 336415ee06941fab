/** What a class aims at in a test: said, judged once there is a score. */
import { expect, it } from "vitest";
import { activity, board, ClassServer } from "../../testing/hall";
import { onPage, sent, settled, until } from "../../testing/page";
import { useList } from "../ways/list/useList";
import { useAims } from "./aims";

async function begin(may = true, said = "") {
  const server = new ClassServer(board());
  const aims = (typed: string) => ({
    children: [{ pupil_id: "ada", name: "Ada", said: typed, proposed: "20" }],
    groups: [{ name: "Reds", said: null }],
  });
  server.on("GET", "/api/activities/{activity_id}/aims", () => aims(said));
  server.on("PUT", "/api/activities/{activity_id}/aims/{pupil_id}", ({ body }) =>
    aims((body as { typed: string }).typed),
  );
  server.on("POST", "/api/activities/{activity_id}/aims", () => aims("20"));
  const page = await onPage(() => ({
    list: useList(() => activity()),
    aims: useAims("reps", () => may),
  }));
  return { server, ...page.it };
}

it("shows what was said as soon as it was", async () => {
  const { server, aims } = await begin();
  expect([aims.someone.value, aims.of("ada")?.proposed, aims.of("ben")]).toEqual([
    false,
    "20",
    null,
  ]);
  await aims.saying.mutateAsync({ pupilId: "ada", typed: "22", variant: "full" });
  expect([aims.of("ada")?.said, aims.someone.value]).toEqual(["22", true]);
  expect(server.of("PUT", "aims").map((one) => [one.at, one.body])).toEqual([
    [["reps", "ada"], { typed: "22", variant: "full" }],
  ]);
  await aims.accepting.mutateAsync();
  expect(aims.of("ada")?.said).toBe("20");
});

it.each([
  ["20", 2],
  ["", 1],
])("is judged anew after a score where somebody has one (%s)", async (said, reads) => {
  const { server, list } = await begin(true, said);
  list.test.write(list.test.rows.value[0]!, 1, "21");
  await sent();
  if (said) await until(() => server.of("GET", "aims").length === reads);
  await settled();
  expect(server.of("GET", "aims")).toHaveLength(reads);
});

it("is not asked for where the test takes none", async () => {
  const { server, aims } = await begin(false);
  expect([server.of("GET", "aims"), aims.page.value]).toEqual([[], undefined]);
});
