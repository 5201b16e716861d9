import { useEffect, useState } from "react";

export interface Position {
  lat: number;
  lon: number;
  error_m: number;
}

/** Where the phone is, followed as long as the page is open: taken before the fish, not while it waits. */
export function usePosition(): Position | null {
  const [position, setPosition] = useState<Position | null>(null);
  useEffect(() => {
    if (!("geolocation" in navigator)) return;
    const watch = navigator.geolocation.watchPosition(
      ({ coords }) =>
        setPosition({
          lat: Math.round(coords.latitude * 1e5) / 1e5,
          lon: Math.round(coords.longitude * 1e5) / 1e5,
          error_m: Math.max(1, Math.round(coords.accuracy)),
        }),
      () => setPosition(null),
      { enableHighAccuracy: true, maximumAge: 15_000 },
    );
    return () => navigator.geolocation.clearWatch(watch);
  }, []);
  return position;
}
