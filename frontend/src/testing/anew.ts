/** Files of tests share a realm, which costs a quarter of one each: what they keep in it does not
 * outlive them, nor what they have on a page. */
import { disableAutoUnmount, enableAutoUnmount } from "@vue/test-utils";
import { afterAll, vi } from "vitest";

disableAutoUnmount();
enableAutoUnmount(afterAll);
vi.useRealTimers();
vi.restoreAllMocks();
vi.unstubAllGlobals();
vi.resetModules();
localStorage.clear();
sessionStorage.clear();
document.body.replaceChildren();
