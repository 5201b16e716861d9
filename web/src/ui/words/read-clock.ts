/** Minutes of the day from a time as people type it: 21:40, 2140, 9.40 pm, 9 pm; null for anything else. */
export function readMinutes(text: string): number | null {
  const read = /^(\d{1,2})(?:[:.\s]?(\d{2}))?\s*(am|pm)?$/i.exec(text.trim());
  if (!read) return null;
  const [, hours, minutes, half] = read;
  if (!minutes && !half) return null;
  let hour = Number(hours);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half.toLowerCase() === "pm" ? 12 : 0);
  }
  const minute = Number(minutes ?? 0);
  return hour < 24 && minute < 60 ? hour * 60 + minute : null;
}

/** The moment nearest to another at which a clock in that zone shows this time; null where the text is no time. */
export function readClock(text: string, near: string, timeZone: string): string | null {
  const wanted = readMinutes(text);
  if (wanted === null) return null;
  const there = new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", timeZone });
  const [hour = 0, minute = 0] = there.format(new Date(near)).split(":").map(Number);
  const ahead = (wanted - (hour * 60 + minute) + 2160) % 1440;
  const moment = new Date(near);
  moment.setSeconds(0, 0);
  return new Date(moment.getTime() + (ahead - 720) * 60_000).toISOString();
}
