import { Choice } from "@/ui/Field";
import { COLUMNS, MORE_COLUMNS } from "./paper-cards";

interface Props {
  columns: { header: string; key: string }[];
  onChoose: (header: string, key: string) => void;
}

/** Columns whose names say nothing: somebody may say what they hold. */
export function UnreadColumns({ columns, onChoose }: Props) {
  const unread = columns.filter(({ key, header }) => !key && header);
  const taken = new Set(columns.map(({ key }) => key));
  if (!unread.length) return null;
  return (
    <fieldset className="flex flex-wrap items-end gap-3 pb-3">
      <legend className="pb-1 text-sm text-muted">Columns of the file that are not read</legend>
      {unread.map(({ header }) => (
        <Choice
          key={header}
          label={`"${header}" holds`}
          value=""
          onChange={({ target }) => onChoose(header, target.value)}
        >
          <option value="">Nothing of a card</option>
          {[...COLUMNS, ...MORE_COLUMNS]
            .filter(({ key }) => !taken.has(key))
            .map(({ key, title }) => (
              <option key={key} value={key}>
                {title}
              </option>
            ))}
        </Choice>
      ))}
    </fieldset>
  );
}
