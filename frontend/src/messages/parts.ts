import own from "./en-GB/parts.json";
import { area } from "./area";

/** The messages of this part (`en-GB/parts.json`). */
export const t = area("parts", own);
