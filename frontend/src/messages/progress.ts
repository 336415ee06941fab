import own from "./en-GB/progress.json";
import { area } from "./area";

/** The messages of this part (`en-GB/progress.json`). */
export const t = area("progress", own);
