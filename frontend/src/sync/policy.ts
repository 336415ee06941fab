/** What becomes of a write that the server did not take: one policy for every kind of write. */
import type { ApiError } from "../api/client";

export type Verdict =
  /** Never: somebody has to decide. */
  | { kind: "refused" }
  /** Nothing of this person's is taken before the next sign-in. */
  | { kind: "signed_out" }
  /** The server cannot be reached, or says that it cannot now: everything waits. */
  | { kind: "unreachable"; waitMs: number }
  /** This write only waits; the others go on. */
  | { kind: "later"; waitMs: number };

/** A server that ended is there again within a second or two: who waits longer waits for nothing. */
export const FIRST_WAIT_MS = 500;
export const LONGEST_WAIT_MS = 6_000;
/** Answers that another attempt can change: a time-out, a lesson that is not open to helpers just
 * now, too early, too many at once. */
const PASSING = new Set([408, 423, 425, 429]);

/** How long to wait before the next attempt after so many that failed in a row. */
export function waitAfter(failures: number): number {
  return Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.max(0, failures - 1));
}

/** Whether it was not this write that could not be taken, but any: nobody there, or too many. */
export function isForAll({ status }: Pick<ApiError, "status">): boolean {
  return status === 0 || status === 503;
}

/** `chance` (0 to 1) keeps a whole hall from coming again at once. */
function waitFor(failures: number, retryAfterMs: number, chance = Math.random()): number {
  return Math.max(waitAfter(failures), retryAfterMs * (1 + chance));
}

/** `failures` counts this one. */
export function verdict(
  error: Pick<ApiError, "status" | "retryAfterMs">,
  failures: number,
  chance?: number,
): Verdict {
  const { status } = error;
  const waitMs = waitFor(failures, error.retryAfterMs, chance);
  if (isForAll(error)) return { kind: "unreachable", waitMs };
  if (status === 401) return { kind: "signed_out" };
  if (status >= 500 || PASSING.has(status)) return { kind: "later", waitMs };
  return { kind: "refused" };
}

/** How often somebody who waits for an answer is spared the words that Lauf is too busy. */
const ASKED_AGAIN = 3;

/** Asks again while the server says that it is too busy and that it is tried again. */
export async function whileBusy<T>(ask: () => Promise<T>): Promise<T> {
  for (let failures = 1; ; failures += 1) {
    try {
      return await ask();
    } catch (error) {
      const { status, retryAfterMs } = error as ApiError;
      if (status !== 503 || failures > ASKED_AGAIN) throw error;
      await new Promise((resolve) => setTimeout(resolve, waitFor(failures, retryAfterMs)));
    }
  }
}
