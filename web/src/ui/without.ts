/** The same object without one of its fields. */
export function without<T extends object, K extends keyof T>(from: T, field: K): Omit<T, K> {
  const rest: Partial<T> = { ...from };
  delete rest[field];
  return rest as Omit<T, K>;
}
