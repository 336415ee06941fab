/** `v-focus`: what appears takes the cursor. */
export const vFocus = {
  mounted: (element: HTMLElement) => element.focus({ preventScroll: true }),
};
