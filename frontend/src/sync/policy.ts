/** What becomes of a write that the server did not take: one policy for every kind of write. */
import type { ApiError } from "../api/client";

export type Verdict =
  /** Never: somebody has to decide. */
  | { kind: "refused" }
  /** Nothing of this person's is taken before the next sign-in. */
  | { kind: "signed_out" }
  /** The server cannot be reached: everything waits. */
  | { kind: "unreachable"; waitMs: number }
  /** This write only waits; the others go on. */
  | { kind: "later"; waitMs: number };

export const FIRST_WAIT_MS = 1_000;
export const LONGEST_WAIT_MS = 15_000;
/** Answers that another attempt can change: a time-out, too early, too many at once. */
const PASSING = new Set([408, 425, 429]);

/** How long to wait before the next attempt after so many that failed in a row. */
export function waitAfter(failures: number): number {
  return Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.max(0, failures - 1));
}

/** `failures` counts this one. */
export function verdict(error: Pick<ApiError, "status">, failures: number): Verdict {
  const { status } = error;
  if (status === 0) return { kind: "unreachable", waitMs: waitAfter(failures) };
  if (status === 401) return { kind: "signed_out" };
  if (status >= 500 || PASSING.has(status)) return { kind: "later", waitMs: waitAfter(failures) };
  return { kind: "refused" };
}
