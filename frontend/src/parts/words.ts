/** Dates and times as people say them. */
const DAY = new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long" });
const SHORT = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", year: "numeric" });
const TIME = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit" });

export const dayWords = (day: Date): string => DAY.format(day);
export const shortDay = (iso: string): string => SHORT.format(new Date(iso));
/** As an input of type datetime-local has it: local time, without a zone. */
/** A day as fields and addresses have it, so many days from today, by the clock on the wall. */
export function isoDay(days = 0): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return localInput(day).slice(0, 10);
}
export function localInput(at: Date): string {
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
/** So many of something: "1 score", "2 scores", "2 entries". */
export function counted(number: number, one: string, several = `${one}s`): string {
  return `${number} ${number === 1 ? one : several}`;
}
export const clockTime = (at: Date): string => TIME.format(at);
