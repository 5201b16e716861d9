import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Field";
import { Sheet } from "@/ui/Sheet";
import type { DeckStore, DeckView } from "../document/deck-store";
import { releaseFish } from "../operations/release-set";
import { type Fate, type Leaving, leavingOf } from "../rules/leaving";
import { FATES, protocolRows, wordFor } from "../rules/protocol";

interface Props {
  store: DeckStore;
  view: DeckView;
  capture: Schemas["Capture"];
  onClose: () => void;
}

/** How a fish left, with all that can be said of it. Only what is changed here is sent. */
export function LeavingSheet({ store, view: { document: deck }, capture, onClose }: Props) {
  const before = leavingOf(capture);
  const [typed, setTyped] = useState<Leaving>({ ...before, fate: before.fate ?? "released" });
  const released = typed.fate === "released";
  const keep = () => {
    const fits: Leaving = {
      fate: typed.fate,
      strength: released ? (typed.strength ?? null) : null,
      reason: released ? (typed.reason ?? "") : "",
      taken_to: typed.fate === "taken" ? (typed.taken_to ?? "") : "",
    };
    const changed = Object.fromEntries(
      Object.entries(fits).filter(([name, value]) => value !== (before[name as keyof Leaving] ?? null)),
    );
    if (Object.keys(changed).length) void releaseFish(store, [capture.id], changed);
    onClose();
  };
  const options = (section: string) =>
    protocolRows(deck, section).map(({ code, word }) => (
      <option key={String(code)} value={String(code)}>
        {String(word)}
      </option>
    ));
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={`How ${capture.species} ${capture.length_text} left`}
      description="In the words of the protocol this outing uses."
    >
      <div className="grid gap-3">
        <Choice
          label="Disposition"
          value={typed.fate ?? ""}
          onChange={(event) => setTyped({ ...typed, fate: event.target.value as Fate })}
        >
          {Object.keys(FATES).map((fate) => (
            <option key={fate} value={fate}>
              {wordFor(deck, "fates", fate)}
            </option>
          ))}
        </Choice>
        {released && (
          <>
            <Choice
              label="Release condition"
              value={typed.strength ?? ""}
              onChange={(event) => setTyped({ ...typed, strength: Number(event.target.value) || null })}
            >
              <option value="">not recorded</option>
              {[1, 2, 3, 4].map((strength) => (
                <option key={strength} value={strength}>
                  {strength}: {wordFor(deck, "strengths", String(strength))}
                </option>
              ))}
            </Choice>
            <Choice
              label="Reason for release"
              value={typed.reason ?? ""}
              onChange={(event) => setTyped({ ...typed, reason: event.target.value })}
            >
              <option value="">not recorded</option>
              {options("reasons")}
            </Choice>
          </>
        )}
        {typed.fate === "taken" && (
          <Choice
            label="Where to"
            value={typed.taken_to ?? ""}
            onChange={(event) => setTyped({ ...typed, taken_to: event.target.value })}
          >
            <option value="">not recorded</option>
            {options("taken_to")}
          </Choice>
        )}
        <Button look="ink" large onClick={keep}>
          Save
        </Button>
      </div>
    </Sheet>
  );
}
