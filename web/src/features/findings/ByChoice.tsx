import { GROUPINGS, type Selection } from "@/features/selection";
import { Choices } from "@/ui/Choices";
import { OverChoice } from "./OverChoice";

interface Props {
  selection: Selection;
  onChange: (part: Partial<Selection>) => void;
}

/** What groups are made by, and what their intervals are over. */
export function ByChoice({ selection, onChange }: Props) {
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-2 pt-3">
      <Choices
        label="Groups by"
        options={GROUPINGS.map((value) => ({ value, label: value }))}
        chosen={selection.by ?? "year"}
        onChoose={(by) => onChange({ by: by === "year" ? undefined : by })}
      />
      <OverChoice over={selection.over} onChange={onChange} />
    </div>
  );
}
