import type { Schemas } from "@/api/client";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import type { Report } from "./queries";

export const STATES: Record<Schemas["ReturnStateEnum"], string> = {
  received: "Received",
  matched: "Matched",
  asked: "Asked back",
  verified: "Verified",
  rejected: "Rejected",
};

export const CHANNELS: Record<Schemas["ReturnChannelEnum"], string> = {
  web: "Public page",
  telephone: "Telephone",
  letter: "Letter or e-mail",
  person: "In person",
};

export const FISH_FATES = { released: "Released alive", kept: "Harvested", dead: "Found dead or died" } as const;
export const TAG_FATES = { left: "Left in the fish", removed: "Removed" } as const;
export const MEANS = {
  rod: "Rod and line",
  net: "Net",
  trap: "Trap or pot",
  dead: "Found dead",
  market: "Market or cleaning table",
  other: "Something else",
} as const;

/** The tag of a report as it is matched, or the number as the finder read it. */
export const numberOf = ({ tag, number_text }: Report) => (tag ? markText(tag) : number_text || "photo only");

export function dayText({ found_on, found_within_days }: Report): string {
  if (!found_on) return "day unknown";
  return found_within_days ? `${formatDay(found_on)} ± ${found_within_days} days` : formatDay(found_on);
}

export function positionText({ lat, lon, error_m }: Pick<Report, "lat" | "lon" | "error_m">): string {
  if (lat === null || lon === null) return "";
  const near = error_m === null ? "" : ` (good to ${error_m >= 1000 ? `${error_m / 1000} km` : `${error_m} m`})`;
  return `${lat.toFixed(4)}, ${lon.toFixed(4)}${near}`;
}
