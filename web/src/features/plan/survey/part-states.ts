import { plural } from "@/ui/words/format";
import { gearOf } from "@/ui/words/gears";
import type { Survey } from "../queries";
import type { Part } from "../survey-search";

export interface PartState {
  words: string;
  /** Whether it still waits for an answer. */
  waits: boolean;
}

/** What each part of a plan has answered, or waits for. */
export function partStates(survey: Survey): Record<Part, PartState | null> {
  const { parts, answered, sites, rehearsed, against } = survey;
  const targets = parts.targets?.length ?? 0;
  const has = (name: string) => answered.includes(name);
  const kit = [
    parts.bath?.agent && "bath",
    parts.tags?.kind && parts.tags.n && plural(parts.tags.n, "tag"),
    has("deep") && "deep water",
  ].filter(Boolean);
  const crew = parts.crew?.length ?? 0;
  return {
    design: targets ? { words: plural(targets, "target"), waits: false } : { words: "no targets yet", waits: true },
    sites: sites.length ? { words: `${sites.length} laid`, waits: false } : { words: "none laid yet", waits: true },
    settings: ![survey.gear, ...survey.more_gears].some((gear) => gearOf(gear).electric)
      ? null
      : has("electro")
        ? { words: `for ${parts.electro!.conductivity} µS/cm`, waits: false }
        : { words: "no reading yet", waits: true },
    enough: null,
    rehearsal: rehearsed ? { words: `${rehearsed} done`, waits: false } : { words: "not rehearsed yet", waits: true },
    kit: kit.length ? { words: kit.join(", "), waits: false } : { words: "nothing chosen yet", waits: true },
    go: against.length
      ? { words: `${against.length} to resolve`, waits: true }
      : { words: crew ? plural(crew, "person", "people") : "nobody yet", waits: !crew },
  };
}
