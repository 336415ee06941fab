import own from "./en-GB/sheet.json";
import { area } from "./area";

/** The messages of this part (`en-GB/sheet.json`). */
export const t = area("sheet", own);
