export interface Position {
  lat: number;
  lon: number;
  /** Within so many metres, about. */
  within_m: number;
}

/** A GPS that was heard longer ago than this says nothing of now, ms. */
const FRESH_MS = 10_000;
/** Metres for each unit of a receiver's HDOP (common practice, no source). */
const M_PER_HDOP = 5;

let heard: (Position & { at: number }) | null = null;

/** What a GPS on a cable said; without its HDOP as one of 2. */
export function hearPosition({ lat, lon, hdop = 2 }: Record<string, number>): void {
  if (lat === undefined || lon === undefined) return;
  heard = { lat, lon, within_m: Math.ceil(M_PER_HDOP * hdop), at: performance.now() };
}

/** Where we are: by the GPS on a cable where it speaks, else by this tablet. Rejects in words where neither tells. */
export function whereNow(timeout = 20_000): Promise<Position> {
  if (heard && performance.now() - heard.at < FRESH_MS) {
    const { at, ...position } = heard;
    return Promise.resolve(rounded(position));
  }
  return new Promise((resolve, reject) => {
    if (!navigator.geolocation) return reject(new Error("this tablet does not tell its position"));
    navigator.geolocation.getCurrentPosition(
      ({ coords: { latitude, longitude, accuracy } }) =>
        resolve(rounded({ lat: latitude, lon: longitude, within_m: Math.ceil(accuracy) })),
      ({ message }) => reject(new Error(message)),
      { enableHighAccuracy: true, timeout },
    );
  });
}

const rounded = ({ lat, lon, within_m }: Position): Position => ({
  lat: Number(lat.toFixed(6)),
  lon: Number(lon.toFixed(6)),
  within_m,
});
