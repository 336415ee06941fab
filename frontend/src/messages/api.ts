import own from "./en-GB/api.json";
import { area } from "./area";

/** The messages of this part (`en-GB/api.json`). */
export const t = area("api", own);
