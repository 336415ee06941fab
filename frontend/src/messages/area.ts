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

/**
 * Takes the messages of another language where the page brings them: a file by part and key. They
 * are compiled here, as English ones were when Lauf was built.
 */
export async function translate(): Promise<void> {
  const brought = document.getElementById("messages");
  if (!brought) return;
  const { baseCompile } = await import("@intlify/message-compiler");
  const parts = JSON.parse(brought.textContent) as Record<string, Record<string, string>>;
  const compiled = Object.entries(parts).map(([part, own]) => [
    part,
    Object.fromEntries(
      Object.entries(own).map(([key, words]) => [key, baseCompile(words, { jit: true }).ast]),
    ),
  ]);
  i18n.global.setLocaleMessage(LANGUAGE, Object.fromEntries(compiled) as never);
}

const rules = document.getElementById("rules");
const renamed = (rules ? JSON.parse(rules.textContent) : {}) as Record<
  string,
  Record<string, string> | undefined
>;

/**
 * A list of the rules with what its rows are called in the language of this installation.
 *
 * @param name the list, as in `api/vocabulary.ts`
 */
export function worded<const Rows extends readonly { code: string; words: string }[]>(
  name: string,
  rows: Rows,
): Rows {
  const said = renamed[name];
  if (!said) return rows;
  return rows.map((row) => ({ ...row, words: said[row.code] ?? row.words })) as never;
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
