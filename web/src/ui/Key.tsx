/** A key of the keyboard that does what stands beside it. */
export function Key({ children }: { children: string }) {
  return <kbd className="rounded-sm border border-current px-1 text-xs">{children}</kbd>;
}
