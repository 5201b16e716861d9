import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice } from "@/ui/Field";
import { formatDay } from "@/ui/format";
import { ManyOf } from "@/ui/ManyOf";
import { Tick } from "@/ui/Tick";
import { inWords, type Selection } from "./selection";

interface Props {
  options: Schemas["SelectionOptions"];
  selection: Selection;
  onChange: (part: Partial<Selection>) => void;
  /** Whether "all species" may be chosen. */
  everySpecies?: boolean;
  /** Whether it is told in one line; without a way to fold it, it is open. */
  folded?: boolean;
  onFold?: (folded: boolean) => void;
}

/** Where a panel stands beside what it selects; folded, or where the screen is narrow, above it. */
export const selectionGrid = (folded: boolean) =>
  folded ? "" : "md:grid md:grid-cols-[15.5rem_minmax(0,1fr)] md:gap-x-6";

/** Whether the panel is folded: as it was left, and at first where there is no room beside it. */
export function useFolded() {
  const [folded, setFolded] = useState(() => {
    const left = localStorage.getItem("selection-folded");
    return left === null ? !matchMedia("(min-width: 900px)").matches : left === "yes";
  });
  const fold = (now: boolean) => {
    localStorage.setItem("selection-folded", now ? "yes" : "no");
    setFolded(now);
  };
  return [folded, fold] as const;
}

/** Which fish: every choice goes into the address. */
export function SelectionPanel({ options, selection, onChange, everySpecies = false, folded = false, onFold }: Props) {
  if (folded && onFold)
    return (
      <section aria-label="Selection" className="flex flex-wrap items-center gap-x-3 gap-y-1 pb-2">
        <span>{inWords(selection, options)}</span>
        <Button large onClick={() => onFold(false)}>
          Change
        </Button>
      </section>
    );
  const waters = options.waters.filter(({ id }) => !selection.water || selection.water.includes(id));
  const sites = waters.flatMap((water) => water.sites);
  const reaches = [...new Set(sites.map(({ reach }) => reach).filter(Boolean))];
  const outings = options.outings.filter(
    ({ water, date }) =>
      (!selection.water || selection.water.includes(water)) &&
      (!selection.first || date >= selection.first) &&
      (!selection.last || date <= selection.last),
  );
  return (
    <section aria-label="Selection" className="flex flex-col gap-2.5 pb-3 md:border-r md:border-line md:pr-5">
      {onFold && (
        <Button large onClick={() => onFold(true)}>
          Fold the selection
        </Button>
      )}
      <Choice
        label="Species"
        value={selection.species ?? ""}
        onChange={(event) => onChange({ species: event.target.value })}
      >
        {everySpecies && <option value="">all species</option>}
        {options.species.map(({ code, name }) => (
          <option key={code} value={code}>
            {name}
          </option>
        ))}
      </Choice>
      <div className="grid grid-cols-2 gap-2 md:grid-cols-1">
        <DayField label="First day" value={selection.first ?? ""} onDay={(first) => onChange({ first })} />
        <DayField label="Last day" value={selection.last ?? ""} onDay={(last) => onChange({ last })} />
      </div>
      <ManyOf
        label="Waters"
        items={options.waters.map(({ id, name }) => ({ value: id, label: name }))}
        chosen={selection.water ?? []}
        onChange={(water) => onChange({ water, site: [], reach: [], outing: [] })}
      />
      <ManyOf
        label="Reaches"
        items={reaches.map((reach) => ({ value: reach, label: reach }))}
        chosen={selection.reach ?? []}
        onChange={(reach) => onChange({ reach })}
      />
      <ManyOf
        label="Sites"
        items={sites.map(({ id, name, reach }) => ({ value: id, label: `${name}, ${reach}` }))}
        chosen={selection.site ?? []}
        onChange={(site) => onChange({ site })}
      />
      <ManyOf
        label="Outings"
        items={outings.map(({ id, name, date }) => ({
          value: id,
          label: `${formatDay(date)} ${name}`,
          group: date.slice(0, 4),
        }))}
        chosen={selection.outing ?? []}
        onChange={(outing) => onChange({ outing })}
      />
      <ManyOf
        label="Gear"
        items={options.gears.map(({ code, label }) => ({ value: code, label }))}
        chosen={selection.gear ?? []}
        onChange={(gear) => onChange({ gear: gear as Selection["gear"] })}
      />
      <ManyOf
        label="Sex"
        items={[
          { value: "f", label: "female" },
          { value: "m", label: "male" },
          { value: "u", label: "unknown" },
        ]}
        chosen={selection.sex ?? []}
        onChange={(sex) => onChange({ sex: sex as Selection["sex"] })}
      />
      <Tick
        label="Also sizes judged by eye"
        checked={selection.estimated ?? false}
        onChange={(estimated) => onChange({ estimated })}
      />
      <Tick
        label="A fish caught again counts once"
        checked={selection.once ?? false}
        onChange={(once) => onChange({ once })}
      />
      <Button
        onClick={() =>
          onChange({
            water: [],
            site: [],
            reach: [],
            outing: [],
            gear: [],
            sex: [],
            first: "",
            last: "",
            estimated: false,
            once: false,
          })
        }
      >
        {everySpecies ? "All captures" : "All of this species"}
      </Button>
    </section>
  );
}
