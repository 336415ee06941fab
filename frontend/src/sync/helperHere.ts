/** The helper that this device was let in as: whose entries it keeps and sends. */
const HELPER = "lauf.helper";

/** As a name for entries, apart from people who sign in; null where nobody helps. */
export function helperHere(): string | null {
  const id = localStorage.getItem(HELPER);
  return id ? `helper ${id}` : null;
}
export function rememberHelper(id: string | null): void {
  if (id) localStorage.setItem(HELPER, id);
  else localStorage.removeItem(HELPER);
}
