/** Every message is short and plain, and each is said somewhere. */
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";

const HERE = import.meta.dirname;
const SOURCE = join(HERE, "..");
const MOST_WORDS = 20;
/** Words that a colleague would not say (the glossary gives others). */
const NOT_SAID = /\b(whoever|nought|anew|meanwhile|shut out|let in|take (it )?back|take away)\b/i;

const parts = readdirSync(join(HERE, "en-GB")).map((file) => ({
  part: file.replace(".json", ""),
  messages: JSON.parse(readFileSync(join(HERE, "en-GB", file), "utf8")) as Record<string, string>,
}));

/** The sentences of a message, in each of its plurals; what stands in braces is one word. */
function sentences(message: string): string[] {
  return message
    .split(" | ")
    .flatMap((form) => form.replace(/\{[^}]*\}/g, "X").split(/(?<=[.!?])\s+/));
}
function files(folder: string): string[] {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) return files(path);
    return /\.(vue|ts)$/.test(name) && !/\.(test|model)\.ts$/.test(name) ? [path] : [];
  });
}
const code = files(SOURCE)
  .map((path) => readFileSync(path, "utf8"))
  .join("\n");
/** Of keys that begin with a kind of thing: t(`${kind}Title`). */
const ENDINGS = [...code.matchAll(/\bt\(`\$\{\w+\}(\w+)`/g)].map(([, ending]) => ending ?? "?");

describe.each(parts)("messages of $part", ({ part, messages }) => {
  it("have at most twenty words a sentence, no semicolon and no word of the wrong kind", () => {
    const wrong = Object.entries(messages).filter(
      ([, message]) =>
        message.includes(";") ||
        NOT_SAID.test(message) ||
        sentences(message).some((one) => (one.match(/[\w’'+-]+/g) ?? []).length > MOST_WORDS),
    );
    expect(wrong).toEqual([]);
  });

  it("are all said by the pages", () => {
    const unsaid = Object.keys(messages).filter(
      (key) =>
        !new RegExp(`["'.]${key}["']`).test(code) &&
        !code.includes(`${part}.${key}`) &&
        !ENDINGS.some((ending) => key.endsWith(ending)),
    );
    expect(unsaid).toEqual([]);
  });
});

it("templates say no word of their own in what they work out", () => {
  const own = files(SOURCE)
    .filter((path) => path.endsWith(".vue"))
    .flatMap((path) => {
      const shown = readFileSync(path, "utf8").match(/\{\{[^}]*\}\}/g) ?? [];
      return shown
        .filter((one) => /(\?|:|\|\|) "[A-Za-z][a-z ]+"/.test(one))
        .map((one) => [path, one]);
    });
  expect(own).toEqual([]);
});
