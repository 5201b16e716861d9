import type { ReactNode } from "react";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";

/** A link that is shown once, to be handed over. */
export function HandedLink({ link, children }: { link: string; children: ReactNode }) {
  return (
    <div className="border border-ink bg-raised p-3">
      <p>{children}</p>
      <p className="mt-1 text-sm break-all select-all">{link}</p>
      <Button
        className="mt-2"
        onClick={() =>
          navigator.clipboard.writeText(link).then(
            () => notify("Copied."),
            () => notify("This browser does not let a page copy: mark the link and copy it."),
          )
        }
      >
        Copy it
      </Button>
    </div>
  );
}
