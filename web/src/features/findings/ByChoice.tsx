import { Choices } from "@/ui/Choices";
import { GROUPINGS, type Grouping } from "./selection";

/** What groups are made by. */
export function ByChoice({ by, onChoose }: { by: Grouping; onChoose: (by: Grouping) => void }) {
  return (
    <div className="pt-3">
      <Choices
        label="Groups by"
        options={GROUPINGS.map((value) => ({ value, label: value }))}
        chosen={by}
        onChoose={onChoose}
      />
    </div>
  );
}
