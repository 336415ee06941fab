/** The ways to take scores, each fit for some kinds of score. */
export interface Way {
  name: string;
  label: string;
  kinds: string[] | null;
}

export const WAYS: Way[] = [
  { name: "capture", label: "List", kinds: null },
  { name: "tally", label: "Tally", kinds: ["count"] },
  { name: "tap", label: "Tap", kinds: ["time"] },
  { name: "measure", label: "Measure", kinds: ["marks", "length", "offset"] },
  { name: "target", label: "Target", kinds: ["total"] },
  { name: "shuttle", label: "Beeps", kinds: ["stage"] },
  { name: "partner", label: "Partner says", kinds: ["count", "hits", "total"] },
];

export function waysOf(kind: string): Way[] {
  return WAYS.filter((way) => !way.kinds || way.kinds.includes(kind));
}

/** The way that a test of this kind is best taken in the hall. */
export function wayFor(kind: string): string {
  const own = WAYS.find((way) => way.kinds?.includes(kind) && way.name !== "tally");
  return own && own.name !== "partner" ? own.name : "capture";
}
