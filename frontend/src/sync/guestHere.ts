/** Who is on this device without an account: a helper in a lesson, or children in a challenge. */
export type Guest = "helper" | "child";

/** Whose entries this device keeps and sends, apart from those of people who sign in. */
export function guestOf(kind: Guest) {
  const key = `lauf.${kind}`;
  /** Who was here last, for what could not be sent then. */
  const last = `${key}.last`;
  const named = (id: string | null) => (id ? `${kind} ${id}` : null);
  return {
    /** As a name for entries; null for nobody. */
    here: () => named(localStorage.getItem(key)),
    last: () => named(localStorage.getItem(last)),
    remember(id: string | null) {
      if (!id) localStorage.removeItem(key);
      else {
        localStorage.setItem(key, id);
        localStorage.setItem(last, id);
      }
    },
  };
}

/** The page that a guest opens. */
const PAGES: Readonly<Record<string, Guest>> = { "/help": "helper", "/mine": "child" };

/** Who is on this page without an account; null for nobody, and on every other page. */
export function guestHere(): string | null {
  const kind = PAGES[globalThis.location.pathname];
  return kind ? guestOf(kind).here() : null;
}
