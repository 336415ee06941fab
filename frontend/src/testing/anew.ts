/** Files of tests share a realm, which costs a quarter of one each: what they keep in it does not. */
import { vi } from "vitest";

vi.resetModules();
localStorage.clear();
document.body.replaceChildren();
