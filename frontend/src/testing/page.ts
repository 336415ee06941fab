/** A page for tests: what a composable needs around it, as the application gives it. */
import { QueryClient, VueQueryPlugin } from "@tanstack/vue-query";
import { flushPromises, mount } from "@vue/test-utils";
import Dexie from "dexie";
import { IDBKeyRange, indexedDB } from "fake-indexeddb";
import { defineComponent, h, type Component } from "vue";
import { afterEach, vi } from "vitest";
import { createMemoryHistory, createRouter } from "vue-router";
import { i18n } from "../messages/area";
import { provideFrame, type Frame } from "../sheet/frame";
// Fetched by the page once somebody is signed in: here it is there already.
import "../sync/device";
import { useSync } from "../sync/useSync";

// Said outright: which of two modules is read first is left to chance.
Dexie.dependencies = { indexedDB, IDBKeyRange };
// This browser names locks and has none.
Object.defineProperty(navigator, "locks", {
  configurable: true,
  value: { request: (_name: string, work: () => Promise<unknown>) => work() },
});

// It has no sound either.
vi.stubGlobal(
  "AudioContext",
  class {
    state = "suspended";
    resume = () => Promise.resolve();
  },
);

/** Keys as they are pressed one after the other: "21⏎" types 21 and Enter. */
export function keysOf(text: string): KeyboardEvent[] {
  return Array.from(text).map(
    (key) => new KeyboardEvent("keydown", { key: key === "⏎" ? "Enter" : key, cancelable: true }),
  );
}

/** A clock that stands until it is told. */
export function heldClock(start = 1_700_000_000_000) {
  let at = start;
  window.laufTimeSource = () => at;
  return { start, ahead: (ms: number) => (at = start + ms) };
}

/** Until nothing is on its way any more. */
export async function settled(turns = 6): Promise<void> {
  for (let turn = 0; turn < turns; turn += 1) {
    await flushPromises();
    await new Promise((done) => setImmediate(done));
  }
}

/** Until it is so: for what goes through the device's database. */
export async function until(holds: () => boolean): Promise<void> {
  await vi.waitUntil(holds, { timeout: 60_000, interval: 2 });
  await settled();
}

/** What leaves each page that is open. */
const pages = new Set<() => void>();
/** Leave every page of this test, as a reload does: what a page keeps on the device stays there. */
export function leave() {
  for (const one of pages) one();
}
afterEach(() => {
  leave();
  localStorage.clear();
  delete window.laufTimeSource;
});

/** A composable on a page of its own, in the frame of the hall, with somebody signed in; `inside`
 * is what the page shows. */
export async function onPage<T>(
  setup: () => T,
  address = "/",
  inside: () => Component | null = () => null,
) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: "/:rest(.*)*", component: { render: () => null } }],
  });
  await router.push(address);
  useSync().signedIn("robin");
  let made: T | undefined;
  let frame: Frame | undefined;
  let clocks = 0;
  const Inner = defineComponent(() => {
    made = setup();
    return () => {
      const shown = inside();
      return shown && h(shown);
    };
  });
  const page = mount(
    defineComponent(() => {
      frame = provideFrame(() => (clocks += 1));
      return () => h(Inner);
    }),
    { global: { plugins: [[VueQueryPlugin, { queryClient: queries }], router, i18n] } },
  );
  const leaveIt = () => {
    if (!pages.delete(leaveIt)) return;
    page.unmount();
    queries.clear();
    for (const { id } of useSync().mine.value) useSync().dismiss(id);
  };
  pages.add(leaveIt);
  await settled();
  return {
    it: made as T,
    frame: frame as Frame,
    /** How often a clock of the test itself was started. */
    clocks: () => clocks,
    router,
    queries,
    /** Nothing of it is left on the device but what it keeps in the local storage. */
    leave: leaveIt,
  };
}

interface Typed {
  onKey: (event: KeyboardEvent) => void;
  entry: { typed: { value: string } };
}
/** Type into a way as a keyboard does: what no key of the way takes stands in the field. */
export function type(way: Typed, text: string) {
  // A second Enter at once would not be meant for the next child.
  for (const event of keysOf(text)) {
    vi.spyOn(performance, "now").mockReturnValueOnce((pressed += 1_000));
    way.onKey(event);
    if (event.key !== "Enter" && !event.defaultPrevented) way.entry.typed.value += event.key;
  }
}
let pressed = 1_000_000;

/** Everything that was written on this page has been answered. */
export async function sent(): Promise<void> {
  const sync = useSync();
  await until(() => sync.waiting.value === sync.refused.value);
  await settled();
}
