import { Link } from "@tanstack/react-router";
import { useEffect, useState } from "react";
import { useSession } from "@/session";
import { Button } from "@/ui/Button";
import { Sheet } from "@/ui/Sheet";

const KEYS: Record<string, [string, string][]> = {
  Everywhere: [
    ["F1 or ?", "this help"],
    ["Tab, Shift Tab", "to the next or last control"],
    ["Esc", "close what lies on top"],
  ],
  Deck: [
    ["Enter", "keep the fish on the line; answer a doubt with yes"],
    ["Alt 1 to Alt 4", "take the repair offered"],
    ["↑", "correct the last fish"],
    ["Ctrl Z", "take the last fish out"],
    ["Esc", "clear the line"],
    ["F2", "pedal clock on and off"],
    ["F3", "fish on: a fight begins (rods)"],
    ["F4", "scanned, none found"],
    ["F6", "the fish that presses most moves on to its next lane"],
    ["F7", "all that is said of that fish"],
    ["F8", "start or end a run"],
    ["F9", "release all aboard"],
    ["Page Down", "take what the instruments read onto the line"],
    ["F10, Shift F10", "jump to the next species of the list, or back"],
  ],
  "Call line": [
    ["last was 496", "correct the last fish: only the fields you type change"],
    ["last was #W1450", "the last fish is given this tag"],
    ["again", "the last fish once more: another of its species, length, mass and sex"],
    ["wal", "a species alone: the next fish are of it"],
    ["wal 437 890 f", "species, length, mass, sex, in any order that has one reading"],
    ["~31in, 18 1/4 in, 2lb 7oz", "estimates and units"],
    ["x14", "counted, not measured"],
    ["999000000012345, #W1001", "a PIT or T-bar number"],
    ["t345", "the tag in stock that ends in 345, where there is only one"],
    ["other 231 ; bullhead", "a species that is not on the list, by its name"],
    ["none", "scanned, none found"],
    ["r1 r2 r3 r4, released, dead, kept, escaped, taken", "how it left the boat; alive and weak are understood"],
    ["hatchery, pen, laboratory", "taken there: the places of the protocol"],
    ["fl, sl, tln ...", "the length's type, where it is not the species' own"],
    ["; scar on flank", "a note"],
  ],
};

/** Every key and word in one place. */
export function Help() {
  const version = useSession().data?.version;
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const listener = (event: KeyboardEvent) => {
      const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      if (event.key !== "F1" && !(event.key === "?" && !typing)) return;
      event.preventDefault();
      setOpen(true);
    };
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, []);
  return (
    <>
      <Button aria-label="Help: keys and words" onClick={() => setOpen(true)}>
        ?
      </Button>
      <Sheet
        open={open}
        onOpenChange={setOpen}
        title="Keys and words"
        description="Whatever a finger can do, a key can do."
      >
        <p>
          An hour to begin with, for a{" "}
          {["recorder", "lead", "biologist"].map((who, place) => (
            <span key={who}>
              {place > 0 && ", "}
              <Link
                to="/guide/$who"
                params={{ who }}
                className="inline-flex min-h-[44px] items-center underline underline-offset-4"
                onClick={() => setOpen(false)}
              >
                {who}
              </Link>
            </span>
          ))}
          . What a word means:{" "}
          <Link
            to="/guide/$who"
            params={{ who: "glossary" }}
            className="inline-flex min-h-[44px] items-center underline underline-offset-4"
            onClick={() => setOpen(false)}
          >
            glossary
          </Link>
          .
        </p>
        {Object.entries(KEYS).map(([where, keys]) => (
          <section key={where} className="mt-2">
            <h3 className="font-semibold">{where}</h3>
            <dl className="grid grid-cols-[15rem_1fr] gap-x-4">
              {keys.map(([key, what]) => (
                <div key={key} className="contents">
                  <dt className="border-t border-line py-0.5">
                    <kbd>{key}</kbd>
                  </dt>
                  <dd className="border-t border-line py-0.5">{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
        <p className="mt-3 text-sm text-muted">Nailwright {version}</p>
      </Sheet>
    </>
  );
}
