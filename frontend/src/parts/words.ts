/** Dates and times as people say them. */
const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long" });
const SHORT = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const TIME = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

export const dayWords = (day: Date): string => DAY.format(day);
export const shortDay = (iso: string): string => SHORT.format(new Date(iso));
export const clockTime = (at: Date): string => TIME.format(at);
