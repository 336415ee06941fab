/** A typed score goes straight: through few hands from the key to the device, and on to its address.
 * From the address to its row it is three more (`tests/api/lessons/test_straight_ways.py`). */
import { expect, it, vi } from "vitest";
import { client } from "../api/client";
import { activity, board, ClassServer } from "../testing/hall";
import { onPage, sent } from "../testing/page";
import { useList } from "./ways/list/useList";

/** Functions of ours that stand on the stack, the innermost last; those without a name are part of
 * the one around them. */
function hands(): string[] {
  const ours = /at (?:async )?(?:\w+\.)?(\w+) \(.*src\/(sheet|sync)\/(?:\w+\/)*(\w+)\.ts/;
  const lines = (new Error().stack ?? "").split("\n").map((line) => ours.exec(line));
  return lines.flatMap((found) => (found ? [`${found[3]}.${found[1]}`] : [])).reverse();
}

it("is handed on nine times from its key to its address", async () => {
  const server = new ClassServer(board());
  const { it: list } = await onPage(() => useList(() => activity()));
  Error.stackTraceLimit = 60;
  const ways: string[][] = [];
  const stringify = JSON.stringify.bind(JSON);
  // Told to the other tabs as it is kept here.
  vi.spyOn(JSON, "stringify").mockImplementation((value: unknown) => {
    if (!ways.length && (value as { kind?: string }).kind === "attempt") ways.push(hands());
    return stringify(value);
  });
  const post = client.POST.bind(client) as (...asked: unknown[]) => never;
  vi.spyOn(client, "POST").mockImplementation((...asked: unknown[]) => {
    ways.push(hands());
    return post(...asked);
  });

  list.entry.typed.value = "21";
  list.onKey(new KeyboardEvent("keydown", { key: "Enter" }));
  await sent();

  expect(server.counts()).toEqual(["Ada 1: 21"]);
  const [toDevice, toAddress] = ways.map((way) => way.filter((one) => !/plain|alone/.test(one)));
  expect(toDevice).toEqual([
    "useTyping.onKey",
    "useTyping.save",
    "useSheet.write",
    "useSheet.put",
    "engine.put",
    "engine.keep",
  ]);
  expect(toAddress?.slice(-3)).toEqual(["engine.deliver", "useSync.send", "routes.post"]);
});
