/** The words of Lauf: one catalogue of messages a part, in one language at a time. */
import { createI18n } from "vue-i18n";

const SOURCE = "en-GB";
/** The language of this installation: a tag that dates and numbers are written by as well. */
export const LANGUAGE = document.documentElement.lang || SOURCE;

export const i18n = createI18n({
  legacy: false,
  locale: LANGUAGE,
  fallbackLocale: SOURCE,
  messages: { [SOURCE]: {} },
});

/** Where the page brings another language: a file of messages by part and key. */
const brought = document.getElementById("messages");
if (brought) await translate(brought.textContent);

/** Takes the messages of another language. They are compiled here, as English ones were built. */
async function translate(file: string): Promise<void> {
  const { baseCompile } = await import("@intlify/message-compiler");
  const parts = JSON.parse(file) as Record<string, Record<string, string>>;
  const compiled = Object.entries(parts).map(([part, own]) => [
    part,
    Object.fromEntries(
      Object.entries(own).map(([key, words]) => [key, baseCompile(words, { jit: true }).ast]),
    ),
  ]);
  i18n.global.setLocaleMessage(LANGUAGE, Object.fromEntries(compiled) as never);
}

/** What stands in a message's braces, by name. */
type Named = Record<string, unknown>;

/** Says one message of a part: with what stands in its braces, or how many there are, or both. */
export interface Says<Key extends string> {
  (key: Key, named?: Named | number): string;
  (key: Key, named: Named, plural: number): string;
}

/**
 * Adds the messages of a part to the catalogue. They come with the code that says them.
 *
 * @param name the part, as its file in `en-GB/` is called
 * @param own its messages by key
 */
export function area<Own extends Record<string, string>>(
  name: string,
  own: Own,
): Says<keyof Own & string> {
  i18n.global.mergeLocaleMessage(SOURCE, { [name]: own });
  return (key: string, named?: Named | number, plural?: number) => {
    const path = `${name}.${key}`;
    if (named === undefined) return i18n.global.t(path);
    if (typeof named === "number") return i18n.global.t(path, named);
    return plural === undefined ? i18n.global.t(path, named) : i18n.global.t(path, named, plural);
  };
}
