import { memo, useEffect, useMemo, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { formatInches, formatMm } from "@/ui/words/format";
import { type Band, type Brick, bands, boardScale, pile, type Scale } from "./board";

const HEIGHT = 194;
const TOP = 34;
const FLOOR = 150;
/** Height of the last visit's outline: lower than the words on limits. */
const OUTLINE = (FLOOR - TOP) * 0.44;
const MM_PER_INCH = 25.4;

interface Props {
  species: Schemas["DeckSpecies"];
  /** From which length on a fish of it may carry a tag, mm. */
  tagFrom: number | null;
  captures: Pick<Schemas["Capture"], "id" | "species" | "length_mm" | "length_basis">[];
  /** Length being typed, mm. */
  preview: number | null;
  doubted: boolean;
}

/**
 * A ruler across the Deck, inches on one edge and millimetres on the other. Every fish of the species lies on it at its
 * length, piled where lengths are alike; behind are the size categories and the fish of the last visit.
 */
export function MeasuringBoard({ species, tagFrom, captures, preview, doubted }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1240);
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setWidth(Math.max(300, entry!.contentRect.width)));
    observer.observe(frame.current!);
    return () => observer.disconnect();
  }, []);

  const fish = useMemo(
    () => captures.filter((each) => each.species === species.code && each.length_mm !== null),
    [captures, species.code],
  );
  const longest = useMemo(() => Math.max(0, ...fish.map(({ length_mm }) => length_mm!)), [fish]);
  const scale = useMemo(() => boardScale(species, [longest], width), [species, longest, width]);
  const bricks = useMemo(() => pile(fish, scale.binMm), [fish, scale]);
  const tallest = bricks.reduce((most, { level }) => Math.max(most, level + 1), 0);
  const brick = Math.min(12, (OUTLINE + 4) / Math.max(tallest, 1));
  const last = fish.at(-1);
  const newest = bricks.at(-1);

  return (
    <div ref={frame} className="px-4 pt-1.5">
      <svg
        width={width}
        height={HEIGHT}
        role="img"
        aria-label={`Measuring board, ${species.name}: ${fish.length} measured${last ? `, the last ${formatMm(last.length_mm!)}` : ""}`}
        className="block select-none"
      >
        <Background species={species} tagFrom={tagFrom} scale={scale} width={width} />
        <Piles bricks={bricks} scale={scale} tall={brick} />
        {newest && (
          <rect
            key={newest.id}
            data-newest={newest.id}
            {...brickAt(newest, scale, brick)}
            fill={newest.estimated ? "none" : "var(--ink)"}
            stroke="var(--ink)"
          />
        )}
        {last && (
          <Tick
            scale={scale}
            mm={last.length_mm!}
            label={`${formatMm(last.length_mm!)}, ${formatInches(last.length_mm!)}`}
            width={width}
          />
        )}
        {preview !== null && preview <= scale.maxMm && <Preview scale={scale} mm={preview} doubted={doubted} />}
        {preview !== null && preview > scale.maxMm && (
          <text x={width - 4} y={TOP + 48} textAnchor="end" fill="var(--signal)" fontWeight="600">
            beyond the board: {formatMm(preview)} →
          </text>
        )}
      </svg>
    </div>
  );
}

const brickAt = ({ bin, level }: Brick, scale: Scale, height: number) => ({
  x: scale.x(bin * scale.binMm) + 0.75,
  y: FLOOR - (level + 1) * height + 1,
  width: scale.x(scale.binMm) - 1.5,
  height: Math.max(1, height - 1.5),
});

/** Thousands of fish are two shapes, not thousands: only the newest is one of its own. Not drawn anew while one is typed. */
const Piles = memo(function Piles({ bricks, scale, tall }: { bricks: Brick[]; scale: Scale; tall: number }) {
  return (
    <>
      <path d={outlines(bricks, false, scale, tall)} fill="var(--data)" />
      <path d={outlines(bricks, true, scale, tall)} fill="none" stroke="var(--ink)" />
    </>
  );
});

/** All fish but the newest, measured or judged by eye, as one outline. */
function outlines(bricks: Brick[], estimated: boolean, scale: Scale, tall: number): string {
  let path = "";
  for (const each of bricks.slice(0, -1)) {
    if (each.estimated !== estimated) continue;
    const { x, y, width, height } = brickAt(each, scale, tall);
    path += `M${x.toFixed(1)} ${y.toFixed(1)}h${width.toFixed(1)}v${height.toFixed(1)}h${(-width).toFixed(1)}z`;
  }
  return path;
}

/** What does not change from fish to fish. */
const Background = memo(function Background({
  species,
  tagFrom,
  scale,
  width,
}: Pick<Props, "species" | "tagFrom"> & {
  scale: Scale;
  width: number;
}) {
  const categories = bands(species, scale.maxMm);
  return (
    <>
      <rect x="0" y={TOP} width={width} height={FLOOR - TOP} fill="var(--raised)" />
      {categories.map((band, place) => (
        <CategoryBand key={band.name} band={band} place={place} scale={scale} />
      ))}
      {limits(species, tagFrom).map(({ mm, words }, place) => (
        <Limit key={words} x={scale.x(mm)} words={words} place={place} />
      ))}
      <LastVisit lengths={species.last_visit_mm} grouped={(species.last_visit_groups ?? []).length > 0} scale={scale} />
      {species.last_visit_groups?.map((group) => (
        <LengthGroup key={group.mean_mm} group={group} scale={scale} />
      ))}
      <Ruler scale={scale} width={width} />
    </>
  );
});

/** Lengths from which something is allowed: to be kept, to carry a tag. */
function limits({ legal_mm = [] }: Partial<Props["species"]>, tagFrom: number | null) {
  const [least, most] = legal_mm;
  return [
    { mm: least, words: `legal from ${least}` },
    { mm: most, words: `legal to ${most}` },
    { mm: tagFrom, words: `tag from ${tagFrom}` },
  ].filter((each): each is { mm: number; words: string } => each.mm != null);
}

function Limit({ x, words, place }: { x: number; words: string; place: number }) {
  const y = TOP + 27 + place * 13; // above the piles
  return (
    <g>
      <line x1={x} x2={x} y1={TOP} y2={FLOOR} stroke="var(--ink)" strokeWidth="1.25" strokeDasharray="7 3" />
      <text x={x + 4} y={y} fontSize="12" fontWeight="600" fill="var(--ink)">
        {words}
      </text>
    </g>
  );
}

function CategoryBand({ band, place, scale }: { band: Band; place: number; scale: Scale }) {
  const x = scale.x(band.from);
  return (
    <g>
      <rect x={x} y={TOP} width={scale.x(band.to) - x} height={FLOOR - TOP} fill={`var(--band-${place + 1})`} />
      <line x1={x} x2={x} y1={TOP} y2={FLOOR} stroke="var(--muted)" strokeDasharray="2 3" />
      <text x={x + 4} y={TOP + 13} fontSize="12" fill="var(--muted)">
        {fitting(band, scale.x(band.to) - x)}
      </text>
    </g>
  );
}

const LETTER_PX = 6.6;
/** A phone's board has room for the least of words. */
const isNarrow = ({ x, maxMm }: Scale) => x(maxMm) < 600;

/** A band's name and limit, or as much of it as its width can hold. */
function fitting({ name, from }: Band, width: number): string {
  const whole = `${name} ${from}`;
  return [whole, name, String(from)].find((words) => words.length * LETTER_PX + 6 <= width) ?? "";
}

/** The last visit's lengths as an outline, so that cohorts can be told again. */
function LastVisit({ lengths, grouped, scale }: { lengths: number[]; grouped: boolean; scale: Scale }) {
  if (!lengths.length) return null;
  const counts = new Map<number, number>();
  for (const mm of lengths) {
    const bin = Math.floor(mm / scale.binMm + 1e-9);
    counts.set(bin, (counts.get(bin) ?? 0) + 1);
  }
  const most = Math.max(...counts.values());
  const end = scale.x(scale.maxMm) - 6; // where hardly any fish is that long
  const top = (bin: number) => FLOOR - ((counts.get(bin) ?? 0) / most) * OUTLINE;
  const first = Math.min(...counts.keys());
  const last = Math.max(...counts.keys());
  let path = `M${scale.x(first * scale.binMm)} ${FLOOR}`;
  for (let bin = first; bin <= last; bin++) path += `V${top(bin)}H${scale.x((bin + 1) * scale.binMm)}`;
  return (
    <g>
      <path d={`${path}V${FLOOR}`} fill="none" stroke="var(--ghost)" strokeWidth="1.25" />
      <text x={end} y={FLOOR - 6} fontSize="12" textAnchor="end" fill="var(--muted)">
        {isNarrow(scale) ? `last visit ${lengths.length}` : `outline: last visit, n = ${lengths.length}`}
      </text>
      {grouped && !isNarrow(scale) && (
        <text x={end} y={FLOOR - 20} fontSize="12" textAnchor="end" fill="var(--muted)">
          brackets: its groups, mean (n)
        </text>
      )}
    </g>
  );
}

/** Where two thirds of a group of the last visit lay, about its mean; dashed where it can hardly be told from its neighbour. */
function LengthGroup({ group, scale }: { group: Schemas["LengthGroup"]; scale: Scale }) {
  const { mean_mm, sd_mm, n, apart } = group;
  const [from, to] = [scale.x(mean_mm - sd_mm), scale.x(mean_mm + sd_mm)];
  const y = FLOOR - OUTLINE - 8;
  return (
    <g stroke="var(--muted)" fill="var(--muted)">
      <path d={`M${from} ${y + 5}V${y}H${to}V${y + 5}`} fill="none" strokeDasharray={apart ? undefined : "3 3"} />
      <text x={(from + to) / 2} y={y - 4} fontSize="12" textAnchor="middle" stroke="none">
        {isNarrow(scale) ? Math.round(mean_mm) : `${Math.round(mean_mm)} (${n})`}
      </text>
    </g>
  );
}

function Ruler({ scale, width }: { scale: Scale; width: number }) {
  const millimetres = Array.from({ length: scale.maxMm / 10 + 1 }, (_, place) => place * 10);
  const inches = Array.from({ length: Math.floor(scale.maxMm / MM_PER_INCH) + 1 }, (_, place) => place);
  return (
    <g stroke="var(--ink)" fill="var(--ink)" fontSize="12">
      <line x1="0" x2={width} y1={FLOOR} y2={FLOOR} />
      {millimetres.map((mm) => (
        <line
          key={mm}
          x1={scale.x(mm)}
          x2={scale.x(mm)}
          y1={FLOOR}
          y2={FLOOR + (mm % 100 === 0 ? 16 : mm % 50 === 0 ? 11 : 6)}
          strokeWidth={mm % 100 === 0 ? 1.5 : 0.75}
        />
      ))}
      {millimetres
        .filter((mm) => mm % 100 === 0 && mm > 0 && mm < scale.maxMm)
        .map((mm) => (
          <text key={mm} x={scale.x(mm)} y={FLOOR + 28} textAnchor="middle" stroke="none" fontWeight="600">
            {mm}
          </text>
        ))}
      <text x={width} y={FLOOR + 28} textAnchor="end" stroke="none">
        mm
      </text>
      <line x1="0" x2={width} y1={TOP} y2={TOP} />
      {inches.map((inch) => (
        <line
          key={inch}
          x1={scale.x(inch * MM_PER_INCH)}
          x2={scale.x(inch * MM_PER_INCH)}
          y1={TOP}
          y2={TOP - (inch % 5 === 0 ? 11 : 6)}
          strokeWidth={0.75}
        />
      ))}
      {inches
        .filter((inch) => inch % 5 === 0 && inch > 0 && scale.x(inch * MM_PER_INCH) < width - 30)
        .map((inch) => (
          <text key={inch} x={scale.x(inch * MM_PER_INCH)} y={TOP - 14} textAnchor="middle" stroke="none">
            {inch}
          </text>
        ))}
      <text x={width} y={TOP - 14} textAnchor="end" stroke="none">
        in
      </text>
    </g>
  );
}

function Tick({ scale, mm, label, width }: { scale: Scale; mm: number; label: string; width: number }) {
  const x = scale.x(mm);
  const right = x > width - 150;
  return (
    <g fill="var(--ink)" stroke="var(--ink)">
      <line x1={x} x2={x} y1={FLOOR} y2={FLOOR + 20} strokeWidth="2.5" />
      <text
        x={right ? x - 5 : x + 5}
        y={FLOOR + 42}
        fontSize="13"
        fontWeight="700"
        stroke="none"
        textAnchor={right ? "end" : "start"}
      >
        {label}
      </text>
    </g>
  );
}

function Preview({ scale, mm, doubted }: { scale: Scale; mm: number; doubted: boolean }) {
  const x = scale.x(mm);
  const colour = doubted ? "var(--signal)" : "var(--ink)";
  return (
    <g stroke={colour} fill={colour}>
      <line x1={x} x2={x} y1={TOP} y2={FLOOR} strokeWidth="2" strokeDasharray="6 4" />
      <path d={`M${x - 7} ${TOP - 2}h14l-7 11z`} />
      {doubted && (
        <text x={x + 9} y={TOP + 30} fontSize="16" fontWeight="700" stroke="none">
          ?
        </text>
      )}
    </g>
  );
}
