import { type KeyboardEvent, type PointerEvent, type RefObject, useEffect, useRef, useState } from "react";
import { FARTHEST, type Point, pinched, type Size, type View, WHOLE, zoomed } from "./flat";

const STEP = 60;
/** A finger that moved less has pointed at something, px. */
const STILL = 5;

/** Dragging, pinching, wheel with Ctrl, keys: the view of a map, and what is to be hung on it. */
export function useMoves(map: RefObject<HTMLElement | null>, size: Size, onPoint: (at: Point) => void) {
  const [view, setView] = useState<View>(WHOLE);
  const fingers = useRef(new Map<number, Point>());
  const began = useRef<Point | null>(null);
  const middle = { x: size.width / 2, y: size.height / 2 };
  const zoom = (factor: number, at: Point = middle) => setView((old) => zoomed(old, factor, at.x, at.y));
  const inMap = ({ clientX, clientY }: { clientX: number; clientY: number }): Point => {
    const { left, top } = map.current!.getBoundingClientRect();
    return { x: clientX - left, y: clientY - top };
  };

  useEffect(() => {
    const element = map.current!;
    const onWheel = (event: WheelEvent) => {
      if (!event.ctrlKey) return; // the page scrolls as ever
      event.preventDefault();
      zoom(event.deltaY < 0 ? 1.25 : 0.8, inMap(event));
    };
    // React's own listener may not prevent the page's zoom
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  });

  const handlers = {
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      fingers.current.set(event.pointerId, inMap(event));
      began.current = fingers.current.size === 1 ? inMap(event) : null;
      event.currentTarget.setPointerCapture(event.pointerId);
    },
    onPointerMove: (event: PointerEvent<HTMLElement>) => {
      const from = fingers.current.get(event.pointerId);
      if (!from) return;
      const to = inMap(event);
      if (began.current && Math.hypot(to.x - began.current.x, to.y - began.current.y) < STILL) return;
      began.current = null;
      const before = [...fingers.current.values()];
      fingers.current.set(event.pointerId, to);
      const now = [...fingers.current.values()];
      if (now.length === 2) setView((old) => pinched(old, [before[0]!, before[1]!], [now[0]!, now[1]!]));
      else if (now.length === 1) setView((old) => ({ ...old, x: old.x + to.x - from.x, y: old.y + to.y - from.y }));
    },
    onPointerUp: (event: PointerEvent<HTMLElement>) => {
      if (began.current) onPoint(began.current);
      fingers.current.delete(event.pointerId);
      began.current = null;
    },
    onPointerCancel: (event: PointerEvent<HTMLElement>) => {
      fingers.current.delete(event.pointerId);
      began.current = null;
    },
    onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
      const by = { ArrowLeft: [STEP, 0], ArrowRight: [-STEP, 0], ArrowUp: [0, STEP], ArrowDown: [0, -STEP] }[event.key];
      if (by) setView((old) => ({ ...old, x: old.x + by[0]!, y: old.y + by[1]! }));
      else if (event.key === "+" || event.key === "=") zoom(1.5);
      else if (event.key === "-") zoom(1 / 1.5);
      else if (event.key === "0") setView(WHOLE);
      else return;
      event.preventDefault();
    },
  };
  return { view, zoom, whole: () => setView(WHOLE), isWhole: view === WHOLE, isFarthest: view.k <= FARTHEST, handlers };
}
