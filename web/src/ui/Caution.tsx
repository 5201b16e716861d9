/** The short caution where the work can hurt somebody. */
export function Caution({ children }: { children: React.ReactNode }) {
  return <p className="mt-2 border border-signal px-2 py-1 text-sm font-semibold">{children}</p>;
}
