import { Popover } from "radix-ui";
import { useId } from "react";
import { Button } from "./Button";

interface Props {
  label: string;
  items: { value: string; label: string }[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}

/** Some of many; none chosen means all. */
export function ManyOf({ label, items, chosen, onChange }: Props) {
  const id = useId();
  const names = items.filter(({ value }) => chosen.includes(value)).map((item) => item.label);
  const toggle = (value: string) =>
    onChange(chosen.includes(value) ? chosen.filter((each) => each !== value) : [...chosen, value]);
  return (
    <div className="flex flex-col gap-1">
      <span id={id} className="text-sm text-muted">
        {label}
      </span>
      <Popover.Root>
        <Popover.Trigger
          aria-labelledby={`${id} ${id}-value`}
          className="flex min-h-[44px] cursor-pointer items-center justify-between gap-2 rounded-sm border border-line bg-raised px-2.5 text-left"
        >
          <span id={`${id}-value`} className="line-clamp-2">
            {names.length === 0 ? "all" : names.length <= 2 ? names.join("; ") : `${names.length} chosen`}
          </span>
          <span aria-hidden="true">▾</span>
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            align="start"
            sideOffset={4}
            className="z-50 max-h-96 w-[min(26rem,92vw)] overflow-y-auto rounded-sm border border-ink bg-raised p-2 text-ink"
          >
            <div className="mb-1 flex justify-between gap-2 border-b border-line pb-1">
              <strong>{label}</strong>
              {chosen.length > 0 && <Button onClick={() => onChange([])}>All</Button>}
            </div>
            {items.map(({ value, label: text }) => (
              <label key={value} className="flex min-h-9 items-center gap-2 hover:bg-wash">
                <input
                  type="checkbox"
                  className="size-5 shrink-0 accent-(--ink)"
                  checked={chosen.includes(value)}
                  onChange={() => toggle(value)}
                />
                {text}
              </label>
            ))}
            {items.length === 0 && <p className="text-muted">Nothing to choose here.</p>}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
