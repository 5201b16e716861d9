import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import type { Layer } from "@/features/waters";
import { Button } from "@/ui/Button";
import { Choices } from "@/ui/Choices";
import { readPalette } from "@/ui/palette";
import { Downloads } from "@/ui/pictures/Downloads";
import { type PictureData, savePicture } from "@/ui/pictures/save-picture";
import { useTheme } from "@/ui/theme";
import { plural } from "@/ui/words/format";
import { draw, type Ground, inkOf, outlineOf, type Picture } from "./draw";
import { flatten, type Size } from "./flat";
import { ScaleBar } from "./ScaleBar";
import { fishAt, type Legs, type Met, plot, sceneOf, shownAt } from "./scene";
import { toSvg } from "./svg";
import { useMoves } from "./use-moves";
import { usePlay } from "./use-play";

interface Props {
  /** What it shows, for those who do not see it. */
  label: string;
  met: Met;
  legs: Legs;
  /** Words of the kinds of encounters. */
  kinds: readonly string[];
  layers: readonly Pick<Layer, "name" | "kind" | "line">[];
  /** Number of the fish that is looked at. */
  chosen: number | null;
  onChoose: (fish: number | null) => void;
  /** What is known of the chosen one. */
  followed: ReactNode;
  /** The figures behind it, for taking home. */
  data: () => PictureData;
}

const DAY_S = 86_400;
const SPANS = [
  { value: "all", label: "All until then", days: null },
  { value: "365", label: "A year", days: 365 },
  { value: "90", label: "90 days", days: 90 },
  { value: "30", label: "30 days", days: 30 },
];
const dayOf = (time_s: number) => new Date(time_s * 1000).toISOString().slice(0, 10);

/** A map of encounters that plays through time: dragged, pinched, zoomed by buttons, keys, or the wheel with Ctrl held. */
export function TimeMap({ label, met, legs, kinds, layers, chosen, onChoose, followed, data }: Props) {
  const theme = useTheme();
  const canvas = useRef<HTMLCanvasElement>(null);
  const [fonts, setFonts] = useState(false);
  const [size, setSize] = useState<Size>({ width: 900, height: 480 });
  const [span, setSpan] = useState("all");
  const [first, last] = [met.at[0]!, met.at.at(-1)!];
  const { time, playing, set, toggle } = usePlay(first, last);

  const flat = useMemo(() => flatten(met.lon, met.lat, size), [met, size]);
  const plotted = useMemo(() => plot(met, legs, flat), [met, legs, flat]);
  const ground = useMemo(() => groundOf(layers, flat), [layers, flat]);
  const days = SPANS.find(({ value }) => value === span)!.days;
  const shown = shownAt(met.at, time, days === null ? null : days * DAY_S);

  const { view, zoom, whole, isWhole, isFarthest, handlers } = useMoves(canvas, size, (touched) =>
    onChoose(fishAt(met, plotted, shown, view, touched, chosen)),
  );
  const scene = sceneOf(met, plotted, shown, view, size, chosen);
  const picture = (): Picture => ({ met, plotted, scene, ground, flat, view, size, inks: readPalette() });

  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => {
      const width = Math.round(entry!.contentRect.width);
      if (width) setSize({ width, height: Math.round(Math.min(560, Math.max(320, width * 0.5))) });
    });
    observer.observe(canvas.current!.parentElement!);
    return () => observer.disconnect();
  }, []);
  useEffect(() => {
    // a font that comes later draws no canvas anew
    void document.fonts?.load("600 14px 'Atkinson Hyperlegible Next Variable'").then(() => setFonts(true));
  }, []);
  // the colours are read from the page, which the theme changes
  useEffect(() => {
    const sharp = Math.min(2, devicePixelRatio);
    const [element, pen] = [canvas.current!, canvas.current!.getContext("2d")];
    if (!pen) return; // where nothing is drawn, as in tests without a screen
    if (element.width !== size.width * sharp) element.width = size.width * sharp;
    if (element.height !== size.height * sharp) element.height = size.height * sharp;
    pen.setTransform(sharp, 0, 0, sharp, 0, 0);
    draw(pen, picture());
  }, [met, plotted, ground, view, size, shown.from, shown.to, chosen, theme, fonts]);

  const save = (kind: "svg" | "png" | "csv") =>
    void savePicture(kind, label, data(), toSvg(picture()), size, readPalette().paper);
  const there = kinds.flatMap((words, kind) => (met.kind.includes(kind) ? [{ words, kind }] : []));
  return (
    <section aria-label="Map">
      <div className="relative">
        {/* biome-ignore lint/a11y/noInteractiveElementToNoninteractiveRole: an application is interactive: it is moved and zoomed by keys */}
        <canvas
          ref={canvas}
          role="application"
          tabIndex={0}
          aria-label={`${label}. Arrows move it, plus and minus zoom, 0 shows the whole.`}
          className={`w-full cursor-grab border border-line bg-raised ${isWhole ? "touch-pan-y" : "touch-none"}`}
          style={{ height: size.height }}
          {...handlers}
        />
        <div className="absolute top-2 right-2 flex gap-1">
          <Button aria-label="Nearer" onClick={() => zoom(2)}>
            +
          </Button>
          <Button aria-label="Farther" disabled={isFarthest} onClick={() => zoom(0.5)}>
            −
          </Button>
          <Button disabled={isWhole} onClick={whole}>
            Whole
          </Button>
        </div>
        <ScaleBar metresPerPixel={flat.metresPerPixel / view.k} />
        {chosen !== null && (
          <div className="max-h-72 overflow-y-auto border border-line bg-paper px-3 py-2 sm:absolute sm:top-2 sm:left-2 sm:max-w-80">
            {followed}
          </div>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <Button look="ink" large className="w-24" onClick={toggle}>
          {playing ? "Pause" : "Play"}
        </Button>
        <label className="flex min-w-60 flex-1 items-center gap-3">
          <span className="sr-only">Until the day</span>
          <input
            type="range"
            className="h-11 flex-1 accent-[var(--data)]"
            min={first}
            max={last}
            step={DAY_S}
            value={time}
            aria-valuetext={dayOf(time)}
            disabled={first === last}
            onChange={(event) => {
              const to = Number(event.target.value);
              // the last step of days may fall short of the last encounter
              set(last - to < DAY_S ? last : to);
            }}
          />
          <output className="w-28 text-right text-lg font-semibold tabular-nums">{dayOf(time)}</output>
        </label>
        <Choices label="Show" options={SPANS} chosen={span} onChoose={setSpan} />
      </div>
      <div className="flex flex-wrap items-center gap-x-5 text-sm text-muted">
        <span data-testid="shown">{plural(shown.to - shown.from, "encounter", "encounters")} shown</span>
        {there.map(({ words, kind }) => (
          <span key={kind} className="flex items-center gap-1.5">
            <Mark kind={kind} /> met {words}
          </span>
        ))}
        <span>Larger: more of them. Touch a mark to follow its fish.</span>
        <span className="ml-auto">
          <Downloads onSave={save} />
        </span>
      </div>
    </section>
  );
}

function Mark({ kind }: { kind: number }) {
  const ink = inkOf(kind, { data: "var(--data)", ink: "var(--ink)", signal: "var(--signal)" });
  const corners = outlineOf(kind, 8, 8);
  return (
    <svg width="16" height="16" aria-hidden="true">
      {corners ? <polygon points={corners.join(" ")} fill={ink} /> : <circle cx="8" cy="8" r="4.5" fill={ink} />}
    </svg>
  );
}

function groundOf(layers: Props["layers"], flat: ReturnType<typeof flatten>): Ground[] {
  return layers.map(({ name, kind, line }) => ({
    name,
    lake: kind === "lake",
    line: line.map(([lon, lat]): [number, number] => [flat.x(lon!), flat.y(lat!)]),
  }));
}
