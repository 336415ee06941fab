import own from "./en-GB/catalogue.json";
import { area } from "./area";

/** The messages of this part (`en-GB/catalogue.json`). */
export const t = area("catalogue", own);
