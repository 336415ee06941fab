/** One line of a list to choose from: what is stored, and what a person reads. */
export interface Choice<Value> {
  value: Value;
  title: string;
}

/** What can be chosen, from the words of each value. */
export function choices<Value extends string>(words: Record<Value, string>): Choice<Value>[] {
  return (Object.entries(words) as [Value, string][]).map(([value, title]) => ({ value, title }));
}
