interface Row {
  first: string;
  second: string;
  /** One text for each column. */
  differences: string[];
  /** Corrected for the number of tests; null where nothing can be said; left out where none is made. */
  p?: number | null;
  /** Whether p is only known to be at most that. */
  atMost?: boolean;
}

interface Props {
  caption: string;
  /** What each difference is, with its unit. */
  columns: string[];
  rows: Row[];
}

/** Every pair of groups: how the second differs from the first. */
export function PairTable({ caption, columns, rows }: Props) {
  if (!rows.length) return null;
  const tested = rows.some(({ p }) => p !== undefined);
  return (
    <div className="overflow-x-auto">
      <table className="w-full text-left">
        <caption className="pb-1 text-left font-semibold">{caption}</caption>
        <thead className="text-sm text-muted">
          <tr>
            <th className="pr-3">Second against first</th>
            {columns.map((name) => (
              <th key={name} className="pr-3 text-right">
                {name}
              </th>
            ))}
            {tested && <th className="text-right">p (Holm)</th>}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ first, second, differences, p, atMost }) => (
            <tr key={`${first} ${second}`} className="border-t border-line">
              <td className="min-w-[9.5rem] py-1 pr-3">
                {second} against {first}
              </td>
              {differences.map((text, place) => (
                <td key={columns[place]} className="pr-3 text-right whitespace-nowrap">
                  {text}
                </td>
              ))}
              {tested && (
                <td
                  className={`text-right whitespace-nowrap ${typeof p === "number" && p < 0.05 ? "font-semibold" : "text-muted"}`}
                >
                  {typeof p === "number" ? formatP(p, atMost) : "too few sites"}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function formatP(p: number, atMost = false): string {
  const told = p < 0.001 ? "< 0.001" : `${atMost ? "≤ " : ""}${p.toFixed(3)}`;
  return p < 0.05 ? `${told} *` : told;
}
