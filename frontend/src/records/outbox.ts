/**
 * What was entered and is not acknowledged yet. Every entry is put into the browser's storage
 * before it is sent, one key each, so that a reload, a crash or a second tab loses none; ids are
 * made here, so sending one again stores it once.
 */
import { computed, reactive, ref } from "vue";
import { answer, ApiError, client, type Schemas } from "../api/client";

/** Why the server would not take an entry; it stays here until somebody decides. */
export type Refusal = Pick<
  ApiError,
  "status" | "message" | "accepted" | "choices" | "current" | "sure"
>;

export interface Pending {
  /** What it is, and the id of the activity or lesson it belongs to. */
  kind: "attempt" | "pulse";
  at: string;
  /** Who entered it: only this person's sign-in sends it. */
  by: string;
  /** Order within this device. */
  order: number;
  body: Body;
  refusal?: Refusal;
}

/** An attempt's body; a pulse has fields of its own beside the shared ones. */
export type Body = Schemas["NewAttempt"] & Partial<Schemas["NewPulse"]>;
/** The judged child that the server answered with. */
export type Answered = Schemas["Child"] | Schemas["PulseChild"];
type Saved = (pending: Pending, child: Answered) => void;

const PREFIX = "lauf.outbox.";
const pending = reactive(new Map<string, Pending>());
const sending = ref<string | null>(null);
const signedOut = ref(false);
const person = ref<string | null>(null);
const listeners = new Set<Saved>();
let timer = 0;
let delay = 1000;
let pumping = false;

function load() {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith(PREFIX))) {
    try {
      const entry = JSON.parse(localStorage.getItem(key) ?? "") as Pending;
      if (!entry.kind || !entry.body.id) throw new Error("not an entry");
      pending.set(entry.body.id, entry);
    } catch {
      localStorage.removeItem(key); // cut off while being written: it was never shown as kept
    }
  }
}

function keep(entry: Pending) {
  localStorage.setItem(PREFIX + entry.body.id, JSON.stringify(entry));
  pending.set(entry.body.id, entry);
}

function forget(id: string) {
  pending.delete(id);
  localStorage.removeItem(PREFIX + id);
}

function mine(): Pending[] {
  const own = [...pending.values()].filter((entry) => entry.by === person.value);
  return own.sort((a, b) => a.order - b.order);
}

/** Keep a refused entry for its person to settle; what followed it now follows what it followed. */
function refuse(entry: Pending, error: ApiError) {
  for (const later of mine()) {
    if (later.body.succeeds === entry.body.id) {
      keep({ ...later, body: { ...later.body, succeeds: entry.body.succeeds } });
    }
  }
  const { status, message, accepted, choices, current, sure } = error;
  keep({ ...entry, refusal: { status, message, accepted, choices, current, sure } });
}

function post({ kind, at, body }: Pending): Promise<Answered> {
  if (kind === "pulse") {
    const params = { path: { lesson_id: at } };
    const pulse = body as Body & Schemas["NewPulse"];
    return answer(client.POST("/api/lessons/{lesson_id}/pulses", { params, body: pulse }));
  }
  const params = { path: { activity_id: at } };
  return answer(client.POST("/api/activities/{activity_id}/attempts", { params, body }));
}

/** Send everything in the order it was typed; one at a time, since a correction follows its score. */
async function pump(): Promise<void> {
  if (pumping) return;
  pumping = true;
  window.clearTimeout(timer);
  try {
    let next: Pending | undefined;
    while ((next = mine().find((entry) => !entry.refusal))) {
      const entry = next;
      sending.value = entry.body.id;
      try {
        const child = await post(entry);
        delay = 1000;
        signedOut.value = false;
        forget(entry.body.id);
        listeners.forEach((saved) => saved(entry, child));
      } catch (error) {
        if (!(error instanceof ApiError)) throw error;
        const final = [404, 409, 422].includes(error.status);
        if (!final) {
          signedOut.value = error.status === 401 || error.status === 403;
          timer = window.setTimeout(() => void pump(), delay);
          delay = Math.min(15_000, delay * 2);
          return;
        }
        refuse(entry, error);
      }
    }
  } finally {
    sending.value = null;
    pumping = false;
  }
}

load();
window.addEventListener("online", () => {
  delay = 1000;
  void pump();
});

export function useOutbox() {
  return {
    sending,
    signedOut,
    /** This person's entries that are not acknowledged, oldest first. */
    mine: computed(mine),
    waiting: computed(() => mine().length),
    /** From now on, send this person's entries. */
    signedIn(id: string | null) {
      person.value = id;
      delay = 1000;
      void pump();
    },
    put(kind: Pending["kind"], at: string, body: Body) {
      if (!person.value) throw new Error("nobody is signed in");
      // Later than everything before it, on this device and since the last reload.
      const order = Math.max(Date.now(), ...[...pending.values()].map((one) => one.order + 1));
      keep({ kind, at, by: person.value, order, body });
      void pump();
    },
    /** The newest entry on its way for a place: a new one for it succeeds that. */
    newest(kind: Pending["kind"], at: string, isPlace: (body: Body) => boolean): string | null {
      const found = mine().findLast(
        (entry) => entry.kind === kind && entry.at === at && !entry.refusal && isPlace(entry.body),
      );
      return found?.body.id ?? null;
    },
    /** How an entry on its way stands. */
    stateOf(entry: Pending): "refused" | "saving" | "waiting" {
      if (entry.refusal) return "refused";
      return sending.value === entry.body.id && !signedOut.value ? "saving" : "waiting";
    },
    dismiss: forget,
    /** Hear of every acknowledged entry; returns what stops it. */
    onSaved(saved: Saved): () => void {
      listeners.add(saved);
      return () => listeners.delete(saved);
    },
  };
}
