import { Dialog } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  description: string;
  /** For what is a table. */
  wide?: boolean;
  children: ReactNode;
}

const FIELD = "input:not([type=hidden], [type=file], [type=checkbox], [readonly]), select, textarea";

/** The cursor stands in the first field, not on Esc; on a touch screen on none, where it would raise a keyboard over the sheet. */
function intoFirstField(event: Event) {
  const sheet = event.currentTarget as HTMLElement;
  const field = matchMedia("(pointer: coarse)").matches ? null : sheet.querySelector<HTMLElement>(FIELD);
  event.preventDefault();
  (field ?? sheet).focus();
}

/** A sheet laid over the page for one small job. */
export function Sheet({ open, onOpenChange, title, description, wide, children }: Props) {
  return (
    <Dialog.Root open={open} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/40" />
        <Dialog.Content
          onOpenAutoFocus={intoFirstField}
          tabIndex={-1}
          className={`fixed top-1/2 left-1/2 z-40 max-h-[94dvh] ${wide ? "w-[min(1040px,96vw)]" : "w-[min(560px,94vw)]"} -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-sm border border-ink bg-paper p-5 text-ink`}
        >
          <div className="mb-3 flex items-start justify-between gap-3">
            <div>
              <Dialog.Title className="text-xl font-semibold">{title}</Dialog.Title>
              <Dialog.Description className="text-sm text-muted">{description}</Dialog.Description>
            </div>
            <Dialog.Close asChild>
              <Button aria-label="Esc: close">Esc</Button>
            </Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
