import { whole } from "@/ui/words/format";

/** How far a target is: done of wanted, with a bar. */
export function DoneOf({ label, done, wanted }: { label: React.ReactNode; done: number; wanted: number }) {
  return (
    <li className="py-1">
      <p className="flex justify-between gap-3">
        <span>{label}</span>
        <strong>
          {whole(done)} of {whole(wanted)} {done >= wanted && wanted > 0 && "✓"}
        </strong>
      </p>
      <div className="mt-1 h-2.5 border border-ink" aria-hidden="true">
        <div className="h-full bg-data" style={{ width: `${Math.min(100, (100 * done) / Math.max(1, wanted))}%` }} />
      </div>
    </li>
  );
}
