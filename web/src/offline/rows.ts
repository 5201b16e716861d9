/** The rows with one put in its place by time, or changed where it stands. */
export function put<T extends { id: string; device_time?: string; started_at?: string }>(
  rows: readonly T[],
  row: T,
): T[] {
  const place = rows.findIndex(({ id }) => id === row.id);
  if (place >= 0) return rows.with(place, row);
  const moment = (each: T) => each.device_time ?? each.started_at ?? "";
  // nearly always the newest; a restored fish goes back to its place
  let at = rows.length;
  while (at > 0 && moment(rows[at - 1]!) > moment(row)) at -= 1;
  return rows.toSpliced(at, 0, row);
}
