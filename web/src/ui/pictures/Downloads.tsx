const KINDS = ["svg", "png", "csv"] as const;

/** A picture to take home, and the figures behind it. */
export function Downloads({ onSave }: { onSave: (kind: (typeof KINDS)[number]) => void }) {
  return (
    <span className="flex items-center gap-3 text-sm text-muted">
      Download:
      {KINDS.map((kind) => (
        <button
          key={kind}
          type="button"
          className="inline-flex min-h-[44px] min-w-[44px] cursor-pointer items-center justify-center underline underline-offset-2"
          onClick={() => onSave(kind)}
        >
          {kind === "csv" ? "data (CSV)" : kind.toUpperCase()}
        </button>
      ))}
    </span>
  );
}
