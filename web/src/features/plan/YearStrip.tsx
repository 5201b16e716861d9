import type { Schemas } from "@/api/client";

interface Props {
  surveys: Schemas["SurveyLine"][];
  seasons: Schemas["Season"][];
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const WIDTH = 1100;
const ROW = 26;

/** The months ahead with surveys, closed seasons and spawning. */
export function YearStrip({ surveys, seasons }: Props) {
  const begin = new Date();
  begin.setUTCDate(1);
  const start = Date.UTC(begin.getUTCFullYear(), begin.getUTCMonth(), 1);
  const span = 366 * 86_400_000;
  const x = (time: number) => 150 + ((time - start) / span) * (WIDTH - 160);
  const bars = [
    ...seasons.flatMap((season) =>
      spells(season, start).map((spell) => ({ ...spell, name: season.name, kind: season.kind as string })),
    ),
    ...surveys.map((survey) => ({
      first: Date.parse(survey.first),
      last: Date.parse(survey.last),
      name: survey.name,
      kind: "survey",
    })),
  ].filter(({ first, last }) => last > start && first < start + span);
  const height = 26 + Math.max(1, bars.length) * ROW;
  return (
    <section aria-label="Calendar" className="mt-5 overflow-x-auto">
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="w-full min-w-[640px]"
        role="img"
        aria-label={`The next twelve months: ${bars.map(({ name }) => name).join("; ")}`}
      >
        {Array.from({ length: 13 }, (_, month) => {
          const at = Date.UTC(begin.getUTCFullYear(), begin.getUTCMonth() + month, 1);
          return (
            <g key={at}>
              <line x1={x(at)} x2={x(at)} y1={18} y2={height} stroke="var(--line)" />
              {month < 12 && (
                <text x={x(at) + 4} y={13} fontSize="13" fill="var(--muted)">
                  {MONTHS[new Date(at).getUTCMonth()]}
                </text>
              )}
            </g>
          );
        })}
        {bars.map(({ first, last, name, kind }, place) => (
          <g key={`${name} ${first}`}>
            <text x={0} y={20 + place * ROW + 16} fontSize="13" fill="var(--ink)">
              {name.length > 22 ? `${name.slice(0, 21)}…` : name}
            </text>
            <rect
              x={x(Math.max(first, start))}
              y={20 + place * ROW + 4}
              width={Math.max(4, x(Math.min(last, start + span)) - x(Math.max(first, start)))}
              height={ROW - 10}
              fill={kind === "survey" ? "var(--data)" : kind === "closed" ? "url(#closed)" : "var(--band-4)"}
              stroke={kind === "closed" ? "var(--signal)" : "var(--ink)"}
            />
          </g>
        ))}
        <defs>
          <pattern id="closed" width="7" height="7" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <line x1="0" y1="0" x2="0" y2="7" stroke="var(--signal)" strokeWidth="2" />
          </pattern>
        </defs>
      </svg>
      <p className="text-sm text-muted">
        Filled: surveys. Hatched: closed by rule. Pale: spawning. The law decides; this reminds.
      </p>
    </section>
  );
}

/** A season's spells within this year and the next. */
function spells({ first_day, last_day }: Schemas["Season"], start: number) {
  const year = new Date(start).getUTCFullYear();
  return [year - 1, year, year + 1].map((each) => ({
    first: Date.parse(`${each}-${first_day}`),
    last: Date.parse(`${last_day < first_day ? each + 1 : each}-${last_day}`),
  }));
}
