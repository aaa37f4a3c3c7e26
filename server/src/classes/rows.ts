/** Keeps the rows of one key together, in the order they came. */
export function grouped<Row, K extends string | number>(
  rows: readonly Row[],
  key: (row: Row) => K,
): Map<K, Row[]> {
  const groups = new Map<K, Row[]>();
  for (const row of rows) {
    const group = groups.get(key(row));
    if (group) group.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}

/** Milliseconds since the epoch. */
export const ms = (at: Date): number => at.getTime();
