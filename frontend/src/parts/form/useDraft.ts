/** What is being typed into a long form, kept by the browser's tab: a reload loses nothing of it. */
import { forget } from "../forget";
import { ref, watch } from "vue";

const ROOM = "lauf.draft.";
type Form = Record<string, unknown>;

/** Put what was left into a form, and into the forms that it is made of. */
function put(form: Form, left: Form) {
  for (const name of Object.keys(form)) if (!(name in left)) forget(form, name);
  for (const [name, value] of Object.entries(left)) {
    const part = form[name];
    if (isForm(part) && isForm(value)) put(part, value);
    else form[name] = value;
  }
}
function isForm(value: unknown): value is Form {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/**
 * Keep what is typed into a reactive `form` under a name; none as long as it is not filled in to
 * begin with. What differs from that beginning is there again when the form is opened next.
 */
export function useDraft(form: object, named: () => string | null) {
  /** It stands as it was left. */
  const taken = ref(false);
  let key = "";
  let fresh = "";

  function take(name: string | null) {
    if (name === null) return;
    key = ROOM + name;
    fresh = JSON.stringify(form);
    const left = sessionStorage.getItem(key);
    if (left === null) return;
    put(form as Form, JSON.parse(left) as Form);
    taken.value = true;
  }
  function keep(typed: string) {
    if (!key) return;
    if (typed === fresh) forget();
    else {
      try {
        sessionStorage.setItem(key, typed);
      } catch {
        forget(); // larger than a tab keeps
      }
    }
  }
  /** It was sent, or is not wanted. */
  function forget() {
    sessionStorage.removeItem(key);
    taken.value = false;
  }
  /** As it was to begin with. */
  function anew() {
    put(form as Form, JSON.parse(fresh) as Form);
    forget();
  }
  watch(named, take, { immediate: true });
  watch(() => JSON.stringify(form), keep);
  return { taken, forget, anew };
}

/** Nothing of it is left to whoever comes next to this device. */
export function forgetDrafts() {
  for (const key of Object.keys(sessionStorage)) {
    if (key.startsWith(ROOM)) sessionStorage.removeItem(key);
  }
}
