import own from "./en-GB/exchange.json";
import { area } from "./area";

/** The messages of this part (`en-GB/exchange.json`). */
export const t = area("exchange", own);
