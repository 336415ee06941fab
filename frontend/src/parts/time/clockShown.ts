/** A number of seconds as it is read from afar: 45, 1:05. */
export function clockShown(seconds: number): string {
  if (seconds < 60) return String(seconds);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
}
