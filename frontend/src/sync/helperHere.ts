/** The helper that this device was let in as: whose entries it keeps and sends. */
const HELPER = "lauf.helper";
/** Who helped on it last, for what could not be sent then. */
const LAST = "lauf.helper.last";

const named = (id: string | null) => (id ? `helper ${id}` : null);

/** As a name for entries, apart from people who sign in; null where nobody helps. */
export function helperHere(): string | null {
  return named(localStorage.getItem(HELPER));
}
export function lastHelper(): string | null {
  return named(localStorage.getItem(LAST));
}
export function rememberHelper(id: string | null): void {
  if (!id) localStorage.removeItem(HELPER);
  else {
    localStorage.setItem(HELPER, id);
    localStorage.setItem(LAST, id);
  }
}
