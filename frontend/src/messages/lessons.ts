import own from "./en-GB/lessons.json";
import { area } from "./area";

/** The messages of this part (`en-GB/lessons.json`). */
export const t = area("lessons", own);
