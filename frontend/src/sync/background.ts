/**
 * Sends what is kept on this device while no page is open: the browser says when there is a network
 * again. Only for who is signed in here now, in the order of each lane; what the server does not take
 * stays for its person to settle on a page.
 */
import type { Client } from "openapi-fetch";
import type { paths } from "../api/schema";
import { begunHere, waitsForLesson, type Job, type Store } from "./jobs";
import { post } from "./routes";

/** The network went again: the browser asks once more. */
export class NoNetwork extends Error {}

/**
 * @param store what is kept
 * @param client asks the server as this device does
 * @param alone only one page or worker sends of a lane at a time
 */
export async function sendKept(
  store: Store,
  client: Client<paths>,
  alone: <T>(lane: string, work: () => Promise<T>) => Promise<T>,
): Promise<void> {
  const mine = await here(client);
  const all = await store.all();
  const jobs = all
    .filter((job) => mine.has(job.by) && !job.refusal)
    .sort((a, b) => a.order - b.order);
  const open = new Set(jobs.map((job) => job.lane));
  const sent = new Set<string>();
  for (const lane of [...open]) {
    await alone(lane, async () => {
      for (const job of jobs.filter((one) => one.lane === lane)) {
        // A score waits for its lesson.
        if (waitsForLesson(job, begunHere(all.filter((one) => !sent.has(one.id))))) return;
        // A time waits for its clock.
        if (job.after && open.has(job.after)) return;
        if (!(await isTaken(client, job))) return;
        await store.remove(job.id);
        sent.add(job.id);
      }
      open.delete(lane);
    });
  }
}

/** As whom this device may send: who is signed in, a helper, the children of a challenge. */
async function here(client: Client<paths>): Promise<Set<string>> {
  const found = new Set<string>();
  const session = await asked(client.GET("/api/session"));
  if (session?.person) found.add(session.person.id);
  const help = await asked(client.GET("/api/help"));
  if (help) found.add(`helper ${help.helper_id}`);
  const week = await asked(client.GET("/api/mine"));
  if (week) found.add(`child ${week.entrance_id}`);
  return found;
}

async function isTaken(client: Client<paths>, job: Job): Promise<boolean> {
  const { response } = await reached(post(client, job));
  return response.ok;
}

interface Answered<T> {
  data?: T;
  response: Response;
}

async function asked<T>(asking: Promise<Answered<T>>): Promise<T | undefined> {
  return (await reached(asking)).data;
}

async function reached<T extends { response: Response }>(asking: Promise<T>): Promise<T> {
  try {
    const got = await asking;
    if (got.response.status !== 503) return got;
  } catch {
    // Told below.
  }
  throw new NoNetwork("the server cannot be reached");
}
