/** Dates and times as people say them. */
import { LANGUAGE } from "../messages/area";

const DAY = new Intl.DateTimeFormat(LANGUAGE, { weekday: "long", day: "numeric", month: "long" });
const SHORT = new Intl.DateTimeFormat(LANGUAGE, {
  day: "numeric",
  month: "short",
  year: "numeric",
});
const TIME = new Intl.DateTimeFormat(LANGUAGE, { hour: "2-digit", minute: "2-digit" });

/** A moment as the server writes it; a day alone is its noon here, so that it is that day anywhere. */
export function moment(iso: string): Date {
  return new Date(iso.length === "2026-01-31".length ? `${iso}T12:00` : iso);
}
export const dayWords = (iso: string): string => DAY.format(moment(iso));
export const shortDay = (iso: string): string => SHORT.format(moment(iso));
/** A day as fields and addresses have it, so many days from today, by the clock on the wall. */
export function isoDay(days = 0): string {
  const day = new Date();
  day.setDate(day.getDate() + days);
  return localInput(day).slice(0, 10);
}
/** Every day from one to another, both among them. */
export function daysThrough(first: string, last: string): string[] {
  const days: string[] = [];
  for (const at = new Date(first); at <= new Date(last); at.setUTCDate(at.getUTCDate() + 1)) {
    days.push(at.toISOString().slice(0, 10));
  }
  return days;
}
/** As an input of type datetime-local has it: local time, without a zone. */
export function localInput(at: Date): string {
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
/** Several of something: "mats", "benches", "boxes", "entries"; "children" is to be said. */
export function several(one: string): string {
  if (/(s|x|z|ch|sh)$/.test(one)) return `${one}es`;
  return /[^aeiou]y$/.test(one) ? one.replace(/y$/, "ies") : `${one}s`;
}
/** So many of something: "1 score", "2 scores", "2 entries". */
export function counted(number: number, one: string, many = several(one)): string {
  return `${number} ${number === 1 ? one : many}`;
}
export const clockTime = (iso: string): string => TIME.format(new Date(iso));
