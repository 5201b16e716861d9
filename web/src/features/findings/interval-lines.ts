import type { Palette } from "@/ui/palette";

/** Upright lines from the lower to the upper end of each interval, at x; one with no end is not drawn. */
export const intervalLines = (ends: [x: number, lower: number | null, upper: number | null][], palette: Palette) => ({
  type: "custom",
  silent: true,
  renderItem: (_: unknown, api: { value: (at: number) => number; coord: (at: number[]) => [number, number] }) => {
    const [x, top] = api.coord([api.value(0), api.value(2)]);
    const [, bottom] = api.coord([api.value(0), api.value(1)]);
    return { type: "line", shape: { x1: x, y1: top, x2: x, y2: bottom }, style: { stroke: palette.ink } };
  },
  encode: { x: 0, y: [1, 2] },
  data: ends.filter(([, lower, upper]) => lower !== null && upper !== null),
});
