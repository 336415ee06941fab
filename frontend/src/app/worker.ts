/**
 * The service worker: Lauf opens without network once it has been opened with one. A new version
 * takes over when a page is opened that is no lesson; never under a lesson that is on.
 */
import { Workbox } from "workbox-window";
import { renew } from "./renew";

let registered = false;

/** @param isBusy whether a lesson is open, which nothing may interrupt */
export async function registerWorker(isBusy: () => boolean): Promise<void> {
  // Only pages from a safe origin have one: over plain http another device stays without.
  if (registered || !("serviceWorker" in navigator)) return;
  registered = true;
  const worker = new Workbox("/sw.js", { scope: "/" });
  function take() {
    worker.addEventListener("controlling", () => window.location.reload());
    worker.messageSkipWaiting();
  }
  worker.addEventListener("waiting", (event) => {
    // It waits since an earlier visit, and this one has only begun.
    if (event.wasWaitingBeforeRegister && !isBusy()) take();
    else renew.value = take;
  });
  await worker.register().catch(() => undefined);
}
