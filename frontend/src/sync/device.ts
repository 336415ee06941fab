/** What this device keeps until the server has acknowledged it. */
import Dexie, { type Table } from "dexie";
import { ASIDE } from "./aside";
import { isEntry, laneOfEntry, type Entered, type Job, type Store } from "./jobs";

export class Device extends Dexie implements Store {
  private jobs!: Table<Job, string>;

  constructor(name = "lauf") {
    super(name);
    this.version(1).stores({ jobs: "id" });
  }
  async all() {
    return this.jobs.toArray();
  }
  async put(job: Job) {
    // Structured cloning cannot take Vue's proxies.
    await this.jobs.put(JSON.parse(JSON.stringify(job)) as Job);
  }
  async remove(id: string) {
    await this.jobs.delete(id);
  }
}

const ENTRIES: ReadonlySet<string> = new Set<Entered["kind"]>(["attempt", "pulse", "helped", "go"]);

/** Entries that an earlier page kept in the browser's local storage: it was left before the database
 * had them, or is of a version without one. */
export async function takeOver(store: Store): Promise<void> {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(ASIDE))) {
    try {
      const job = JSON.parse(localStorage.getItem(key) ?? "") as Job;
      if (!ENTRIES.has(job.kind) || !isEntry(job)) throw new Error("not an entry");
      await store.put({ ...job, id: job.body.id, lane: laneOfEntry(job) });
    } catch (error) {
      // One cut off while it was written was never shown as kept; a full device keeps it there.
      if (!(error instanceof SyntaxError) && (error as Error).message !== "not an entry") continue;
    }
    localStorage.removeItem(key);
  }
}
