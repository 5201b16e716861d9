import { type ReactNode, useLayoutEffect, useState } from "react";
import { createPortal } from "react-dom";

const SLOT = "bar-slot";
const ROW = "flex-wrap items-center gap-x-3 gap-y-1 whitespace-nowrap lg:flex-nowrap [&>*]:shrink-0";

/** A place in the application's header that a page fills: where there is little room one bar serves both. */
export function BarSlot({ className = "" }: { className?: string }) {
  return <div id={SLOT} className={`flex min-w-0 flex-1 ${ROW} ${className}`} />;
}

/** Puts its children into the header's slot, or where it stands in a page whose header has none. */
export function InBar({ children }: { children: ReactNode }) {
  const [slot, setSlot] = useState<Element | null | undefined>(undefined);
  useLayoutEffect(() => setSlot(document.getElementById(SLOT)), []);
  if (slot === undefined) return null;
  if (slot) return createPortal(children, slot);
  return <div className={`flex border-b border-line px-4 py-1 max-sm:px-2 ${ROW}`}>{children}</div>;
}
