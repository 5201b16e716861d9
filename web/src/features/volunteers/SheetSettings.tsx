import { usePeople } from "@/features/programme";
import { Choice } from "@/ui/Field";
import { FileButton } from "@/ui/FileButton";

/** What holds for every line that does not say it: whose card, unit of lengths, order of day and month. */
export interface Settings {
  tagger: string;
  unit: "mm" | "cm" | "in";
  order: "" | "day" | "month";
}

interface Props {
  programme: string;
  settings: Settings;
  /** A date may be read two ways. */
  asksOrder: boolean;
  onChange: (part: Partial<Settings>) => void;
  onFile: (file: File) => void;
}

export function SheetSettings({ programme, settings, asksOrder, onChange, onFile }: Props) {
  const { data: people } = usePeople(programme);
  const { tagger, unit, order } = settings;
  return (
    <div className="flex flex-wrap items-end gap-3 pb-3">
      <FileButton label="Read file" accept=".csv,.txt,.tsv,.xlsx,.zip" onFile={onFile} />
      <Choice
        label="Tagger, where a line names none"
        value={tagger}
        onChange={({ target }) => onChange({ tagger: target.value })}
      >
        <option value="">Each line names one</option>
        {people?.members
          .filter(({ left_at }) => !left_at)
          .map(({ id, name, number }) => (
            <option key={id} value={id}>
              {number ? `${name} (${number})` : name}
            </option>
          ))}
      </Choice>
      <Choice
        label="Lengths without a unit"
        value={unit}
        onChange={({ target }) => onChange({ unit: target.value as Settings["unit"] })}
      >
        <option value="mm">mm</option>
        <option value="cm">cm</option>
        <option value="in">in</option>
      </Choice>
      {asksOrder && (
        <Choice
          label="Dates such as 5/4/2026"
          value={order}
          onChange={({ target }) => onChange({ order: target.value as Settings["order"] })}
        >
          <option value="">Choose one</option>
          <option value="day">Day first</option>
          <option value="month">Month first</option>
        </Choice>
      )}
    </div>
  );
}
