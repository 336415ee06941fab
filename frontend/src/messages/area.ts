/** The words of Lauf: one catalogue of messages a part, in one language at a time. */
import { createI18n } from "vue-i18n";

export const i18n = createI18n({
  legacy: false,
  locale: "en-GB",
  fallbackLocale: "en-GB",
  messages: { "en-GB": {} },
});

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
  i18n.global.mergeLocaleMessage("en-GB", { [name]: own });
  return (key: string, named?: Named | number, plural?: number) => {
    const path = `${name}.${key}`;
    if (named === undefined) return i18n.global.t(path);
    if (typeof named === "number") return i18n.global.t(path, named);
    return plural === undefined ? i18n.global.t(path, named) : i18n.global.t(path, named, plural);
  };
}
