import own from "./en-GB/app.json";
import { area } from "./area";

/** The messages of this part (`en-GB/app.json`). */
export const t = area("app", own);
