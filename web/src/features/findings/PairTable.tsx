interface Row {
  first: string;
  second: string;
  difference: string;
  p: number;
  /** Whether p is only known to be at most that. */
  atMost?: boolean;
}

/** Every pair of groups: how the second differs from the first, and p corrected for the number of pairs. */
export function PairTable({ caption, unit, rows }: { caption: string; unit: string; rows: Row[] }) {
  if (!rows.length) return null;
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">{caption}</caption>
      <thead className="text-sm text-muted">
        <tr>
          <th className="pr-3">Second against first</th>
          <th className="pr-3 text-right">Difference ({unit})</th>
          <th className="text-right">p (Holm)</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ first, second, difference, p, atMost }) => (
          <tr key={`${first} ${second}`} className="border-t border-line">
            <td className="py-1 pr-3">
              {second} against {first}
            </td>
            <td className="pr-3 text-right whitespace-nowrap">{difference}</td>
            <td className={`text-right whitespace-nowrap ${p < 0.05 ? "font-semibold" : "text-muted"}`}>
              {p < 0.001 ? "< 0.001" : `${atMost ? "at most " : ""}${p.toFixed(3)}`}
              {p < 0.05 && " *"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
