import { expect, it } from "vitest";
import { activity, board, ClassServer } from "../testing/hall";
import { onPage, sent, settled, until } from "../testing/page";
import { useTest } from "../sheet/useTest";
import { useResults } from "./useResults";

it("is asked anew once after several scores, and not for what was not taken", async () => {
  const server = new ClassServer(board()).refuses("99");
  server.on("GET", "/api/lessons/{lesson_id}/results", () => ({ tests: [] }));
  const page = await onPage(() => ({
    test: useTest(() => activity()),
    results: useResults("lesson"),
  }));
  const { test } = page.it;
  const asked = () => server.of("GET", "results").length;
  expect(asked()).toBe(1);
  test.write(test.rows.value[0]!, 1, "99");
  await sent();
  test.writeAll(test.rows.value.slice(1).map((row) => ({ row, slot: 1, typed: "18" })));
  await sent();
  expect(asked()).toBe(1);
  await until(() => asked() > 1);
  await settled();
  expect(asked()).toBe(2);
});
