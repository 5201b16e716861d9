import { Delete } from "lucide-react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import type { CallState } from "./use-call";

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "space"];
const EXTRAS = [
  { text: "~", label: "~ estimate" },
  { text: " in ", label: "in" },
  { text: " cm ", label: "cm" },
  { text: " kg ", label: "kg" },
  { text: " lb ", label: "lb" },
  { text: " oz ", label: "oz" },
  { text: "/", label: "/" },
  { text: " x", label: "x count" },
];
const EVIDENCE = {
  "": "not stated",
  pressure: "eggs or milt on light pressure",
  external: "external signs",
  ultrasound: "ultrasound",
  endoscope: "endoscope",
  blood: "blood",
  dissection: "dissection",
};

interface Props {
  state: CallState;
  species: Schemas["DeckSpecies"][];
  focusLine: () => void;
}

/** The call line for a hand in a glove: the same line, filled by touch. */
export function TouchPad({ state, species, focusLine }: Props) {
  const { line, setLine, standing, setStanding, call, evidence, setEvidence } = state;
  const type = (text: string) => setLine(line + text);
  const callSex = (sex: "f" | "m" | "u") =>
    setLine(`${line.replace(/\s+[fmu](?=\s|$)/g, "").trimEnd()} ${sex}`.trimStart());
  return (
    <section
      aria-label="Touch pad"
      className="grid grid-cols-[minmax(0,1fr)] content-start gap-2 border-t border-line pt-2"
    >
      <fieldset className="flex min-w-0 flex-wrap gap-1.5" aria-label="Species">
        {species.map(({ code, name }) => (
          <Button
            key={code}
            large
            className="min-w-fit flex-1 px-1.5! text-[0.88rem]! max-sm:flex-auto"
            look={code === (call.species ?? standing) ? "ink" : "plain"}
            aria-pressed={code === (call.species ?? standing)}
            onClick={() => (line.trim() ? setLine(`${code} ${withoutSpecies(line, species)}`) : setStanding(code))}
          >
            {name}
          </Button>
        ))}
      </fieldset>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3 sm:grid-cols-[minmax(0,5fr)_minmax(0,4fr)_minmax(0,4fr)]">
        <div className="grid grid-cols-3 gap-1.5">
          {KEYS.map((key) => (
            <Button key={key} large className="text-xl" onClick={() => type(key === "space" ? " " : key)}>
              {key === "space" ? <span className="text-sm">next</span> : key}
            </Button>
          ))}
        </div>
        <div className="grid grid-cols-4 gap-1.5 sm:grid-cols-2">
          {EXTRAS.map(({ text, label }) => (
            <Button key={label} large className="max-sm:px-1! max-sm:text-sm!" onClick={() => type(text)}>
              {label}
            </Button>
          ))}
        </div>
        <div className="grid grid-cols-2 content-start gap-1.5">
          <Button
            large
            aria-pressed={call.sex === "f"}
            look={call.sex === "f" ? "ink" : "plain"}
            onClick={() => callSex("f")}
          >
            female
          </Button>
          <Button
            large
            aria-pressed={call.sex === "m"}
            look={call.sex === "m" ? "ink" : "plain"}
            onClick={() => callSex("m")}
          >
            male
          </Button>
          <label className="col-span-2 text-xs text-muted">
            sexed by
            <select
              className="mt-0.5 min-h-[44px] w-full rounded-sm border border-line bg-raised px-1 text-sm text-ink"
              value={evidence}
              onChange={(event) => {
                setEvidence(event.target.value);
                focusLine();
              }}
            >
              {Object.entries(EVIDENCE).map(([value, label]) => (
                <option key={value} value={value}>
                  {label}
                </option>
              ))}
            </select>
          </label>
          <Button
            large
            aria-label="Erase last character"
            onClick={() => setLine(Array.from(line).slice(0, -1).join(""))}
          >
            <Delete size={20} />
          </Button>
          <Button large look="ink" onClick={state.enter}>
            Save
          </Button>
          <Button
            large
            className="col-span-2"
            aria-pressed={call.scanned === "none"}
            look={call.scanned === "none" ? "ink" : "plain"}
            onClick={state.sayScanned}
          >
            scanned, none found
          </Button>
        </div>
      </div>
    </section>
  );
}

/** The line without the species it begins with. */
function withoutSpecies(line: string, species: Schemas["DeckSpecies"][]): string {
  const first = line.trimStart().split(/\s+/)[0] ?? "";
  return species.some(({ code }) => code === first.toLowerCase())
    ? line.trimStart().slice(first.length).trimStart()
    : line;
}
