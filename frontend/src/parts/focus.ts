/** `v-focus`: what appears takes the cursor. */
export const vFocus = {
  mounted: (element: HTMLElement) => element.focus({ preventScroll: true }),
};

/** From a field to the next one of a row or table; false after the last. */
export function toNextField(within: HTMLElement | null, event: Event, which = "input"): boolean {
  const fields = [...(within?.querySelectorAll<HTMLInputElement>(which) ?? [])];
  const next = fields[fields.indexOf(event.target as HTMLInputElement) + 1];
  next?.focus();
  next?.select();
  return Boolean(next);
}
