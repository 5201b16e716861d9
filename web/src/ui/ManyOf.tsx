import { Popover } from "radix-ui";
import { useId, useState } from "react";
import { Button } from "./Button";

interface Item {
  value: string;
  label: string;
  /** Items of one group can be chosen together: those of a year, for instance. */
  group?: string;
}

interface Props {
  label: string;
  items: Item[];
  chosen: string[];
  /** What none chosen is called. */
  none?: string;
  onChange: (chosen: string[]) => void;
}

/** From so many items on there is a search. */
const MANY = 12;

/** Some of many; none chosen means all, or what `none` says. */
export function ManyOf({ label, items, chosen, none = "all", onChange }: Props) {
  const id = useId();
  const [wanted, setWanted] = useState("");
  const names = items.filter(({ value }) => chosen.includes(value)).map((item) => item.label);
  const found = items.filter((item) => item.label.toLowerCase().includes(wanted.trim().toLowerCase()));
  const groups = [...new Set(found.map(({ group }) => group))];
  const toggle = (value: string) =>
    onChange(chosen.includes(value) ? chosen.filter((each) => each !== value) : [...chosen, value]);
  const toggleAll = (values: string[]) => {
    const all = values.every((value) => chosen.includes(value));
    const rest = chosen.filter((each) => !values.includes(each));
    onChange(all ? rest : [...rest, ...values]);
  };
  return (
    <div className="flex flex-col gap-1">
      <span id={id} className="text-sm text-muted">
        {label}
      </span>
      <Popover.Root onOpenChange={() => setWanted("")}>
        <Popover.Trigger
          aria-labelledby={`${id} ${id}-value`}
          className="flex min-h-[44px] cursor-pointer items-center justify-between gap-2 rounded-sm border border-line bg-raised px-2.5 text-left"
        >
          <span id={`${id}-value`} className="line-clamp-2">
            {names.length === 0 ? none : names.length <= 2 ? names.join("; ") : `${names.length} chosen`}
          </span>
          <span aria-hidden="true">▾</span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 flex max-h-[min(28rem,80dvh)] w-[min(26rem,92vw)] flex-col rounded-sm border border-ink bg-raised p-2 text-ink"
          >
            <div className="mb-1 flex min-h-[44px] items-center justify-between gap-2 border-b border-line pb-1">
              <strong>{label}</strong>
              {chosen.length > 0 && (
                <Button large onClick={() => onChange([])}>
                  {none[0]!.toUpperCase() + none.slice(1)}
                </Button>
              )}
            </div>
            {items.length >= MANY && (
              <input
                type="text"
                aria-label={`Search ${label.toLowerCase()}`}
                placeholder="Search"
                className="mb-1 min-h-[44px] rounded-sm border border-line bg-paper px-2.5"
                value={wanted}
                onChange={(event) => setWanted(event.target.value)}
              />
            )}
            <div className="overflow-y-auto">
              {groups.map((group) => {
                const inGroup = found.filter((item) => item.group === group);
                return (
                  <div key={group ?? ""}>
                    {group && (
                      <button
                        type="button"
                        className="flex min-h-[44px] w-full cursor-pointer items-center border-b border-line font-semibold hover:bg-wash"
                        onClick={() => toggleAll(inGroup.map(({ value }) => value))}
                      >
                        All of {group} ({inGroup.length})
                      </button>
                    )}
                    {inGroup.map(({ value, label: text }) => (
                      <label key={value} className="flex min-h-[44px] items-center gap-2 hover:bg-wash">
                        <input
                          type="checkbox"
                          className="size-5 shrink-0"
                          checked={chosen.includes(value)}
                          onChange={() => toggle(value)}
                        />
                        {text}
                      </label>
                    ))}
                  </div>
                );
              })}
              {found.length === 0 && (
                <p className="text-muted">{items.length ? "Nothing by that name." : "Nothing to choose here."}</p>
              )}
            </div>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
