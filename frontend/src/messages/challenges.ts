import own from "./en-GB/challenges.json";
import { area } from "./area";

/** The messages of this part (`en-GB/challenges.json`). */
export const t = area("challenges", own);
