/** Rows by a key, each group in the order of the rows. */
export function grouped<Row, Key>(rows: readonly Row[], key: (row: Row) => Key): Map<Key, Row[]> {
  const groups = new Map<Key, Row[]>();
  for (const row of rows) {
    const own = groups.get(key(row));
    if (own) own.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}
