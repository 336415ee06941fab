/** The browser's local storage as the last resort: it keeps at once what the database has not yet. */

export const ASIDE = "lauf.outbox.";

/** As a page goes: a database that is written to in this moment may not finish. */
export function setAside(jobs: { id: string }[]): void {
  for (const job of jobs) {
    try {
      localStorage.setItem(ASIDE + job.id, JSON.stringify(job));
    } catch {
      // The device is full; that is said on the screen.
    }
  }
}
