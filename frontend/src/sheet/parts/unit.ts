/** The child's own measure that an entry is in, "hand" or "step"; "" for none. */
export function unitOf(typed: string): "hand" | "step" | "" {
  if (/step|pace/.test(typed)) return "step";
  return /hand|span/.test(typed) ? "hand" : "";
}
