/** Take a key out of a record. */
export function forget(record: object, key: PropertyKey): void {
  Reflect.deleteProperty(record, key);
}
