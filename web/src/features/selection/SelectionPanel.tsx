import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { DayField } from "@/ui/DayField";
import { Choice } from "@/ui/Field";
import { ManyOf } from "@/ui/ManyOf";
import { Tick } from "@/ui/Tick";
import { FILTERS, type Filter, inWords, NO_FILTERS } from "./filters";
import type { Selection } from "./selection";

interface Props {
  options: Schemas["SelectionOptions"];
  selection: Selection;
  onChange: (part: Partial<Selection>) => void;
  /** Whether "all species" may be chosen. */
  everySpecies?: boolean;
  /** Whether it is told in one line; without a way to fold it, it is open. */
  folded?: boolean;
  onFold?: (folded: boolean) => void;
  /** Names of the filters that are read; all where it is left out. */
  read?: readonly string[];
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
export function SelectionPanel(props: Props) {
  const { options, selection, onChange, everySpecies = false, folded = false, onFold, read } = props;
  if (folded && onFold)
    return (
      <section aria-label="Selection" className="flex flex-wrap items-center gap-x-3 gap-y-1 pb-2">
        <span>{inWords(selection, options, read)}</span>
        <Button large onClick={() => onFold(false)}>
          Change
        </Button>
      </section>
    );
  const shown = FILTERS.filter(({ name }) => !read || read.includes(name));
  const days = shown.filter(({ widget }) => widget === "day");
  return (
    <section aria-label="Selection" className="flex flex-col gap-2.5 pb-3 md:border-r md:border-line md:pr-5">
      {onFold && (
        <Button large onClick={() => onFold(true)}>
          Hide filters
        </Button>
      )}
      {shown.map((filter) =>
        filter.widget !== "day" ? (
          <FilterField key={filter.name} {...{ filter, options, selection, onChange, everySpecies }} />
        ) : (
          filter === days[0] && (
            <div key="days" className="grid grid-cols-2 gap-2 md:grid-cols-1">
              {days.map((each) => (
                <FilterField key={each.name} {...{ filter: each, options, selection, onChange }} />
              ))}
            </div>
          )
        ),
      )}
      <Button onClick={() => onChange(NO_FILTERS)}>{everySpecies ? "All captures" : "All of this species"}</Button>
    </section>
  );
}

interface FieldProps {
  filter: Filter;
  options: Schemas["SelectionOptions"];
  selection: Selection;
  onChange: (part: Partial<Selection>) => void;
  everySpecies?: boolean;
}

function FilterField({ filter, options, selection, onChange, everySpecies }: FieldProps) {
  const { name, label } = filter;
  const value = selection[name];
  switch (filter.widget) {
    case "species":
      return (
        <Choice
          label={label}
          value={String(value ?? "")}
          onChange={(event) => onChange({ [name]: event.target.value })}
        >
          {everySpecies && <option value="">all species</option>}
          {options.species.map(({ code, name: species }) => (
            <option key={code} value={code}>
              {species}
            </option>
          ))}
        </Choice>
      );
    case "day":
      return <DayField label={label} value={String(value ?? "")} onDay={(day) => onChange({ [name]: day })} />;
    case "tick":
      return <Tick label={label} checked={value === true} onChange={(ticked) => onChange({ [name]: ticked })} />;
    case "many":
      return (
        <ManyOf
          label={label}
          items={filter.items(options, selection)}
          chosen={Array.isArray(value) ? value : []}
          onChange={(chosen) =>
            onChange({ ...Object.fromEntries((filter.clears ?? []).map((each) => [each, []])), [name]: chosen })
          }
        />
      );
  }
}
