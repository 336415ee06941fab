import own from "./en-GB/people.json";
import { area } from "./area";

/** The messages of this part (`en-GB/people.json`). */
export const t = area("people", own);
