import { type MouseEvent, type PointerEvent, type ReactNode, useEffect, useRef, useState } from "react";
import { Button } from "@/ui/Button";
import { type Box, projection, roundLength } from "./reach-geometry";

export type Place = (lon: number, lat: number) => [number, number];

interface Props {
  label: string;
  /** What shall be seen whole, before anybody zooms. */
  points: readonly (readonly number[])[];
  /** A click that was no drag, and on nothing that takes it itself. */
  onClick?: (lon: number, lat: number) => void;
  /** Its size in its own units: nearer to a square for a phone. */
  box?: Box;
  /** Words of its buttons, where the page speaks another language. */
  words?: { nearer: string; farther: string; whole: string };
  children: (place: Place, toMap: (event: PointerEvent) => [number, number]) => ReactNode;
}

const BOX = { width: 900, height: 420 };
const WORDS = { nearer: "Nearer", farther: "Farther", whole: "Whole" };
const [LEAST, MOST] = [0.25, 400];
/** Pixels of the picture: a place is at x + k times where the whole has it. */
const WHOLE = { k: 1, x: 0, y: 0 };

/** A map on our own lines: dragged, zoomed by its buttons or by the wheel with Ctrl held, with a scale bar. */
export function MapFrame({ label, points, onClick, box = BOX, words = WORDS, children }: Props) {
  const [view, setView] = useState(WHOLE);
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ x: number; y: number; view: typeof WHOLE; moved: boolean } | null>(null);
  const base = projection(points, box);
  const place: Place = (lon, lat) => {
    const [x, y] = base.place(lon, lat);
    return [view.x + view.k * x, view.y + view.k * y];
  };
  const inPicture = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const { left, top, width } = svg.current!.getBoundingClientRect();
    const scale = box.width / (width || box.width);
    return { x: (clientX - left) * scale, y: (clientY - top) * scale };
  };
  const toMap = (event: { clientX: number; clientY: number }): [number, number] => {
    const { x, y } = inPicture(event);
    return base.unplace((x - view.x) / view.k, (y - view.y) / view.k);
  };
  const zoom = (factor: number, x = box.width / 2, y = box.height / 2) =>
    setView((old) => {
      const k = Math.min(MOST, Math.max(LEAST, old.k * factor));
      return k === 1 ? WHOLE : { k, x: x - ((x - old.x) * k) / old.k, y: y - ((y - old.y) * k) / old.k };
    });

  useEffect(() => {
    const element = svg.current!;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return; // the page scrolls as ever
      event.preventDefault();
      const { x, y } = inPicture(event);
      zoom(event.deltaY < 0 ? 1.25 : 0.8, x, y);
    };
    // React's own listener may not prevent the page's zoom
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  });

  const onPointerDown = (event: PointerEvent) => {
    held.current = { ...inPicture(event), view, moved: false };
  };
  const onPointerMove = (event: PointerEvent<SVGSVGElement>) => {
    const from = held.current;
    if (!from || event.buttons === 0) return;
    const { x, y } = inPicture(event);
    if (!from.moved && Math.hypot(x - from.x, y - from.y) < 5) return;
    from.moved = true;
    event.currentTarget.setPointerCapture(event.pointerId);
    if (view.k !== 1) setView({ ...from.view, x: from.view.x + x - from.x, y: from.view.y + y - from.y });
  };
  const onClickCapture = (event: MouseEvent) => {
    if (held.current?.moved) event.stopPropagation();
    held.current = null;
  };
  const bar = roundLength((base.metresPerPixel / view.k) * 160);
  const pixels = (bar * view.k) / base.metresPerPixel;
  return (
    <div className="relative mt-2">
      {/* biome-ignore lint/a11y/useKeyWithClickEvents: what is clicked here can be typed or chosen beside the map */}
      <svg
        ref={svg}
        viewBox={`0 0 ${box.width} ${box.height}`}
        className={`w-full border border-line bg-raised ${view.k !== 1 ? "cursor-grab touch-none" : ""} ${onClick ? "cursor-crosshair" : ""}`}
        role="img"
        aria-label={label}
        onPointerDown={onPointerDown}
        onPointerMove={onPointerMove}
        onClickCapture={onClickCapture}
        onClick={onClick && ((event) => onClick(...toMap(event)))}
      >
        {children(place, toMap)}
        <g transform={`translate(${box.width - 190} ${box.height - 22})`}>
          <path d={`M0 -5V0H${pixels}V-5`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
          <text x={pixels / 2} y={14} textAnchor="middle" fontSize="13" fill="var(--ink)">
            {bar >= 1000 ? `${bar / 1000} km` : `${bar} m`}
          </text>
        </g>
      </svg>
      <div className="absolute top-2 right-2 flex gap-1">
        <Button aria-label={words.nearer} onClick={() => zoom(2)}>
          +
        </Button>
        <Button aria-label={words.farther} disabled={view.k <= LEAST} onClick={() => zoom(0.5)}>
          −
        </Button>
        <Button disabled={view.k === 1} onClick={() => setView(WHOLE)}>
          {words.whole}
        </Button>
      </div>
    </div>
  );
}
