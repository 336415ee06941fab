/** One page or worker at a time sends of a lane. Only a safe origin has locks; elsewhere sending twice
 * stores once all the same. */
export async function alone<T>(lane: string, work: () => Promise<T>): Promise<T> {
  if (!("locks" in navigator)) return work();
  const done = await navigator.locks.request(`lauf.${lane}`, async () => ({ it: await work() }));
  return done.it;
}
