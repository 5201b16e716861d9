import type { CallState } from "./use-call";

/** While the fish is looked at, before it is measured: what it may be taken for, how that is seen, what to do when unsure. */
export function LookAlikes({ call, species }: Pick<CallState, "call" | "species">) {
  if (!call.speciesCalled || call.length || !species?.lookalikes?.length) return null;
  return (
    <section aria-label="Look-alike species" aria-live="polite" className="mx-4 mb-1 flex flex-wrap gap-x-5 gap-y-1">
      {species.lookalikes.map(({ name, check, unsure, photo, picture }) => (
        <div key={name} className="flex min-w-0 items-center gap-3 border-l-4 border-ink bg-raised px-3 py-1.5">
          {picture && (
            <img
              src={`data:image/jpeg;base64,${picture}`}
              alt={`${species.name}, not ${name}: ${check}`}
              className="h-16 shrink-0"
            />
          )}
          <div className="min-w-0 leading-snug">
            <p>
              <strong>no {name}?</strong> {check}
            </p>
            {unsure && <p className="text-sm">Unsure: {unsure}</p>}
            {photo && <p className="text-sm font-semibold">A photo of each is asked for: its sheet, Photos.</p>}
          </div>
        </div>
      ))}
    </section>
  );
}
