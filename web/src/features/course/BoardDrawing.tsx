interface Props {
  /** Where the tip of the tail lies. */
  length_mm: number;
  /** On the tag; empty: it carries none. */
  number: string;
}

/** Lengths that the drawn piece of the board shows, mm. */
const SPAN = 60;
const PX = 8;
const WIDTH = SPAN * PX;

/** The tail of a fish on a measuring board, large enough to be read to the millimetre, and its tag above. */
export function BoardDrawing({ length_mm, number }: Props) {
  const from = Math.floor(length_mm / 10) * 10 - SPAN / 2;
  const x = (mm: number) => (mm - from) * PX;
  const tip = x(length_mm);
  const marks = Array.from({ length: SPAN + 1 }, (_, step) => from + step);
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} 190`}
        role="img"
        aria-label={`The tail end of a fish on a measuring board with a scale in millimetres${number ? `, its tag reads ${number}` : ""}`}
        className="w-full max-w-130 border border-line bg-raised text-ink"
        fill="none"
        stroke="currentColor"
        strokeWidth="2"
        strokeLinejoin="round"
      >
        <path
          d={`M0 40C60 34 ${tip - 150} 44 ${tip - 92} 58L${tip} 22C${tip - 22} 48 ${tip - 22} 84 ${tip} 112L${tip - 92} 78C${tip - 150} 96 60 106 0 102`}
        />
        {number && (
          <g>
            <path d="M58 36L84 14" strokeWidth="3" />
            <rect x="80" y="2" width="104" height="26" rx="4" fill="var(--paper)" />
            <text x="132" y="21" textAnchor="middle" fontSize="18" fontWeight="600" fill="currentColor" stroke="none">
              {number}
            </text>
          </g>
        )}
        <path d={`M${tip} 22V150`} strokeDasharray="4 4" strokeWidth="1" />
        <path d={`M0 120H${WIDTH}`} />
        {marks.map((mm) => (
          <path
            key={mm}
            d={`M${x(mm)} 120V${mm % 10 === 0 ? 152 : mm % 5 === 0 ? 142 : 134}`}
            strokeWidth={mm % 10 === 0 ? 2 : 1}
          />
        ))}
        {marks
          .filter((mm) => mm % 10 === 0 && mm > from && mm < from + SPAN)
          .map((mm) => (
            <text key={mm} x={x(mm)} y="174" textAnchor="middle" fontSize="18" fill="currentColor" stroke="none">
              {mm}
            </text>
          ))}
      </svg>
      <figcaption className="text-sm text-muted">Scale in mm from the stop at the mouth</figcaption>
    </figure>
  );
}
