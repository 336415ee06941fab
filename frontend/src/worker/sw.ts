/**
 * The service worker: keeps the page and its files for when there is no network, and sends what is
 * kept on this device when there is one again and no page is open.
 */
import createClient from "openapi-fetch";
import {
  cleanupOutdatedCaches,
  createHandlerBoundToURL,
  precacheAndRoute,
  type PrecacheEntry,
} from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";
import type { paths } from "../api/schema";
import { alone } from "../sync/alone";
import { sendKept } from "../sync/background";
import { Device } from "../sync/device";
import { TAG } from "../sync/tag";

/** What a worker has and a page has not, as far as it is used here. */
interface Extended extends Event {
  waitUntil(work: Promise<unknown>): void;
}
interface Worker {
  __WB_MANIFEST: (PrecacheEntry | string)[];
  skipWaiting(): Promise<void>;
  cookieStore?: { get(name: string): Promise<{ value: string } | null> };
  addEventListener(what: "sync", heard: (event: Extended & { tag: string }) => void): void;
  addEventListener(what: "message", heard: (event: MessageEvent<unknown>) => void): void;
}
declare const self: Omit<typeof globalThis, "cookieStore"> & Worker;

precacheAndRoute(self.__WB_MANIFEST);
cleanupOutdatedCaches();
registerRoute(
  new NavigationRoute(createHandlerBoundToURL("/"), { denylist: [/^\/(api|static)\//] }),
);

// The page says when a new version takes over.
self.addEventListener("message", ({ data }) => {
  if ((data as { type?: string } | null)?.type === "SKIP_WAITING") void self.skipWaiting();
});

async function token(): Promise<string> {
  return (await self.cookieStore?.get("csrftoken"))?.value ?? "";
}
const client = createClient<paths>({ baseUrl: self.location.origin });
client.use({
  async onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", await token());
    return request;
  },
});

self.addEventListener("sync", (event) => {
  if (event.tag !== TAG) return;
  event.waitUntil(sendKept(new Device(), client, alone));
});
