import own from "./en-GB/account.json";
import { area } from "./area";

/** The messages of this part (`en-GB/account.json`). */
export const t = area("account", own);
