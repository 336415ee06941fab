/** The blocks of a plan as they are sent: their shapes, and what is said of each kind by the rules. */
import type { Schemas } from "../../api/client";
import { BLOCKS } from "../../api/vocabulary";

export type Entry = Schemas["Plan"]["blocks"][number];
export type Kind = Entry["kind"];
/** A block of one kind. */
export type EntryOf<K extends Kind> = Extract<Entry, { kind: K }>;
type BlockType = (typeof BLOCKS)[number];

const TYPES = new Map<string, BlockType>(BLOCKS.map((one) => [one.code, one]));

/** What is known of a kind. */
export function typeOf(kind: Kind): BlockType {
  const found = TYPES.get(kind);
  if (!found) throw new Error(`no such kind of block: ${kind}`);
  return found;
}
/** Whether blocks of a kind have a setting. */
export function has(kind: Kind, setting: string): boolean {
  return (typeOf(kind).settings as readonly string[]).includes(setting);
}
/** A new block of a kind. Where it has a label, that is the kind's name in the language of the page. */
export function fresh<K extends BlockType["code"]>(kind: K): EntryOf<K> {
  const { new: block, words } = typeOf(kind);
  const label = block.label && words;
  return { ...structuredClone(block), label } as unknown as EntryOf<K>;
}
