import { useState } from "react";
import { Button } from "@/ui/Button";
import { notify } from "@/ui/Notice";
import { CardSheet } from "./CardSheet";
import type { KitStore } from "./kit-store";
import { recordCard } from "./operations/card-record";
import type { Kit } from "./scope";

/** A paper card of somebody's, typed in at the desk. */
export function PaperCard({ store, kit }: { store: KitStore; kit: Kit }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="ink" large className="mt-3" onClick={() => setOpen(true)}>
        Enter paper card
      </Button>
      {open && (
        <CardSheet
          card={null}
          kit={kit}
          onClose={() => setOpen(false)}
          onSave={(row) => {
            recordCard(store, { tagger: kit.id, channel: "paper", tag_kind: "tbar", ...row });
            notify("Card saved.");
            setOpen(false);
          }}
        />
      )}
    </>
  );
}
