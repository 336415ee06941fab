/** Who has the keyboard: what a screen may do with it, and what it may not. */
import { useEventListener } from "@vueuse/core";

const CONTROLS = "a, button, input, select, textarea, [tabindex='0']";

/** The control that was pressed last: it has done its work, and gives the keyboard back. */
let pressed: Element | null = null;
if (typeof document !== "undefined") {
  useEventListener(
    document,
    "click",
    (event) => (pressed = (event.target as Element).closest(CONTROLS)),
    { capture: true },
  );
}

/**
 * Whether somebody has gone to a control and not pressed it yet. What only arrives (a page, a list
 * of children) leaves the keyboard there: the next Enter is meant for what it was aimed at.
 */
export function isAimed(): boolean {
  const at = document.activeElement;
  return at !== null && at !== pressed && at.matches(CONTROLS);
}

const FIELDS = "input, select, textarea";

/**
 * `v-focus`: what appears takes the cursor, itself or its field, once. In a dialog that still opens
 * it takes it as soon as it can, unless somebody types in another field by then.
 */
export const vFocus = {
  mounted(element: HTMLElement) {
    const field = element.matches(CONTROLS) ? element : element.querySelector<HTMLElement>(FIELDS);
    const before = document.activeElement;
    const take = () => {
      const at = document.activeElement;
      if (!field?.isConnected || (at !== before && at?.matches(FIELDS))) return;
      field.focus({ preventScroll: true });
      if (document.activeElement !== field) requestAnimationFrame(take);
    };
    take();
  },
};

/** From a field to the next one of a row or table; false after the last. */
export function toNextField(within: HTMLElement | null, event: Event, which = "input"): boolean {
  const fields = [...(within?.querySelectorAll<HTMLInputElement>(which) ?? [])];
  const next = fields[fields.indexOf(event.target as HTMLInputElement) + 1];
  next?.focus();
  next?.select();
  return Boolean(next);
}

/** Keys of a field beside the score cells are its own; Escape still puts away what it stands in. */
export function ownKeys(event: KeyboardEvent): void {
  if (event.key !== "Escape") event.stopPropagation();
}
