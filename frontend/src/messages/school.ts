import own from "./en-GB/school.json";
import { area } from "./area";

/** The messages of this part (`en-GB/school.json`). */
export const t = area("school", own);
