/** Two floors: a pale one for daylight, a dark one for the hall with the projector on. */
import { createVuetify } from "vuetify";
import { aliases, mdi } from "vuetify/iconsets/mdi-svg";

const nonce = document.querySelector<HTMLElement>('meta[property="csp-nonce"]')?.nonce;
const KEY = "lauf.theme";

/** What was chosen on this device, or what it asks of every page. */
export function wantedTheme(): "light" | "dark" {
  const kept = localStorage.getItem(KEY);
  if (kept === "light" || kept === "dark") return kept;
  return window.matchMedia("(prefers-color-scheme: dark)").matches ? "dark" : "light";
}

export function rememberTheme(name: string): void {
  localStorage.setItem(KEY, name);
}

const FIELD = {
  variant: "solo",
  flat: true,
  density: "compact",
  hideDetails: "auto",
  persistentPlaceholder: true,
} as const;

export const vuetify = createVuetify({
  icons: { defaultSet: "mdi", aliases, sets: { mdi } },
  // A field has its label above, always; what it looks like stands in controls.css.
  defaults: {
    VBtn: { variant: "flat", rounded: "md" },
    VTextField: FIELD,
    VAutocomplete: FIELD,
    VFileInput: FIELD,
    VTextarea: FIELD,
    VSelect: FIELD,
    VCheckbox: { hideDetails: "auto", density: "compact" },
    VRadio: { density: "compact" },
  },
  theme: {
    cspNonce: nonce || undefined,
    defaultTheme: wantedTheme(),
    themes: {
      light: {
        dark: false,
        variables: { "medium-emphasis-opacity": 0.86 },
        colors: {
          background: "#e9eee8",
          surface: "#f9fbf7",
          primary: "#0b4f5c",
          secondary: "#4d5f5e",
          error: "#a1260d",
          warning: "#8a4b00",
          info: "#0b4f5c",
          success: "#1d5c38",
          "on-background": "#15262a",
          "on-surface": "#15262a",
          line: "#0b4f5c",
          chalk: "#5b6d6b",
          pennant: "#b3420f",
        },
      },
      dark: {
        dark: true,
        variables: { "medium-emphasis-opacity": 0.86 },
        colors: {
          background: "#0f1c1f",
          surface: "#182a2e",
          primary: "#7fd0d6",
          secondary: "#a9bcba",
          error: "#ff9d85",
          warning: "#f2b56b",
          info: "#7fd0d6",
          success: "#8fd6a8",
          "on-primary": "#06262b",
          "on-background": "#edf3ee",
          "on-surface": "#edf3ee",
          line: "#7fd0d6",
          chalk: "#a3b6b3",
          pennant: "#f4a468",
        },
      },
    },
  },
});
