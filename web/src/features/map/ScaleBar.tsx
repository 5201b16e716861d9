import { roundLength } from "@/features/waters";

/** A round length as it is on the map. */
export function ScaleBar({ metresPerPixel }: { metresPerPixel: number }) {
  const bar = roundLength(metresPerPixel * 160);
  return (
    <div className="pointer-events-none absolute right-4 bottom-3 text-center text-sm" aria-hidden="true">
      <div className="h-1.5 border-x-2 border-b-2 border-ink" style={{ width: bar / metresPerPixel }} />
      {bar >= 1000 ? `${bar / 1000} km` : `${bar} m`}
    </div>
  );
}
