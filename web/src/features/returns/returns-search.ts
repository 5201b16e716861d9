export const BOXES = ["open", "verified", "rejected", "all"] as const;
export type Box = (typeof BOXES)[number];

export interface ReturnsSearch {
  box?: Box;
  /** Key of the report that is looked at. */
  report?: string;
}

/** Takes from an address what concerns reports and leaves the rest. */
export function readReturnsSearch({ box, report }: Record<string, unknown>): ReturnsSearch {
  return {
    ...((BOXES as readonly unknown[]).includes(box) && { box: box as Box }),
    ...(typeof report === "string" && /^[0-9a-f-]{36}$/.test(report) && { report }),
  };
}
