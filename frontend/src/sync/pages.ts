/**
 * What this device keeps of the answers to its reads, so that a lesson opens without network. It is
 * one person's, bounded, and wiped when that person signs out. Scores that are not sent yet are kept
 * apart from it (`device.ts`) and are never wiped with it.
 */
import { hashKey, type Query, type QueryClient, type QueryKey } from "@tanstack/vue-query";
import { useDebounceFn } from "@vueuse/core";
import Dexie, { type Table } from "dexie";
import { ApiError } from "../api/client";

/** What a lesson needs in the hall, by the first part of a query's key. */
const KEPT = new Set([
  ...[
    "today",
    "open-challenges",
    "check",
    "lesson",
    "timeline",
    "plan",
    "lanes",
    "grid",
    "pulse",
    "aims",
  ],
  ...["rivals", "target", "beeps", "results", "stations", "courses", "set", "week", "tests"],
  ...[
    "spares",
    "spare",
    "lesson-summary",
    "done",
    "templates",
    "classes",
    "challenge",
    "help",
    "mine",
  ],
]);
const DAY_MS = 86_400_000;
/** Answers older than this are removed, and the oldest beyond this many letters of JSON. */
const LONGEST_MS = 8 * DAY_MS;
const MOST_LETTERS = 24_000_000;
/** A score that is saved changes its page several times: that is written once. */
const WRITE_AFTER_MS = 300;

/** The shapes of answers that this version of Lauf reads. */
const SHAPES = String(import.meta.env.VITE_SHAPES ?? "");

export interface Page {
  person: string;
  shapes: string;
  hash: string;
  key: QueryKey;
  /** The answer as JSON. */
  text: string;
  /** When the server gave it, in ms. */
  at: number;
}

/** Where pages are kept; a test may put another one in. */
export interface PageStore {
  get(person: string, hash: string): Promise<Page | undefined>;
  all(): Promise<Page[]>;
  put(pages: Page[]): Promise<void>;
  remove(pages: Page[]): Promise<void>;
  clear(): Promise<void>;
}

export class Pages extends Dexie implements PageStore {
  private pages!: Table<Page, [string, string]>;

  constructor(name = "lauf-pages") {
    super(name);
    this.version(1).stores({ pages: "[person+hash]" });
  }
  async get(person: string, hash: string) {
    return this.pages.get([person, hash]);
  }
  async all() {
    return this.pages.toArray();
  }
  async put(pages: Page[]) {
    await this.pages.bulkPut(pages);
  }
  async remove(pages: Page[]) {
    await this.pages.bulkDelete(pages.map((one) => [one.person, one.hash]));
  }
  async clear() {
    await this.pages.clear();
  }
}

/** What has to go: of other people or of another version, too old, or the oldest of too much. */
export function surplus(pages: Page[], person: string, now: number, shapes = SHAPES): Page[] {
  let letters = 0;
  return [...pages]
    .sort((a, b) => b.at - a.at)
    .filter((one) => {
      if (one.person !== person || one.shapes !== shapes || one.at < now - LONGEST_MS) return true;
      letters += one.text.length;
      return letters > MOST_LETTERS;
    });
}

const isKept = (query: Query): boolean => KEPT.has(String(query.queryKey[0]));

/** Body measurements are looked at on record, and stay on no device. */
function isPrivate(data: unknown): boolean {
  const page = data as { private?: boolean; tests?: { private?: boolean }[] };
  return Boolean(page.private) || (page.tests?.some((one) => one.private) ?? false);
}

export interface KeptPages {
  end: () => void;
  /** Done when what came so far is on the device. */
  flush: () => Promise<void>;
  /** What came and is not on the device yet never goes there. */
  forget: () => void;
  /** What is on the device of a page; undefined for nothing. */
  find: (key: QueryKey) => Promise<{ data: unknown; at: number } | undefined>;
}

/**
 * Keeps answers as they come, and puts them in where the server cannot be reached.
 *
 * @param person who is signed in; null for nobody
 * @returns `end` ends it
 */
export function keepPages(
  queries: QueryClient,
  store: PageStore,
  person: () => string | null,
): KeptPages {
  // What was read once stays in memory for the lesson: a screen that is opened again finds it.
  for (const name of KEPT) queries.setQueryDefaults([name], { gcTime: DAY_MS });
  const changed = new Set<Query>();
  async function flush() {
    const by = person();
    const now = [...changed];
    changed.clear();
    if (!by) return;
    const pages = now.flatMap((query) => {
      const { data, dataUpdatedAt: at } = query.state;
      if (data === undefined || !at || isPrivate(data)) return [];
      const { queryHash: hash, queryKey: key } = query;
      return [{ person: by, shapes: SHAPES, hash, key, text: JSON.stringify(data), at }];
    });
    // A device that is full shows what it has; the queue of scores says that it is full.
    await store.put(pages).catch(() => undefined);
  }
  const write = useDebounceFn(flush, WRITE_AFTER_MS);

  async function find(key: QueryKey) {
    const by = person();
    if (!by) return undefined;
    const page = await store.get(by, hashKey(key)).catch(() => undefined);
    if (page?.shapes !== SHAPES || person() !== by) return undefined;
    return { data: JSON.parse(page.text) as unknown, at: page.at };
  }
  async function putIn(query: Query) {
    const isEmpty = () => query.state.data === undefined;
    const page = isEmpty() ? await find(query.queryKey) : undefined;
    if (page && isEmpty()) queries.setQueryData(query.queryKey, page.data, { updatedAt: page.at });
  }
  const end = queries.getQueryCache().subscribe((event) => {
    const query = event.query as Query;
    if (event.type !== "updated" || !isKept(query)) return;
    const { action } = event;
    if (action.type === "success") {
      changed.add(query);
      void write();
    } else if (action.type === "pause" || (isFailure(action) && isAway(action.error))) {
      void putIn(query);
    }
  });
  return { end, flush, find, forget: () => changed.clear() };
}

/** One of several tries, or the last. */
function isFailure(action: {
  type: string;
  error?: unknown;
}): action is { type: string; error: unknown } {
  return action.type === "failed" || action.type === "error";
}
/** Nothing answered: neither a refusal, nor a server that says it is busy. */
function isAway(error: unknown): boolean {
  return error instanceof ApiError && error.status === 0;
}
