import type { Schemas } from "@/api/client";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";

/** What other programmes told of numbers that are none of ours: whose fish it is, and whom to tell. */
export function WhoseMarks({ marks }: { marks: Schemas["ForeignMark"][] }) {
  if (!marks.length) return null;
  return (
    <section aria-label="Of another programme" className="mt-3">
      <h3 className="font-semibold">Of another programme</h3>
      <ul>
        {marks.map((mark) => (
          <li key={`${mark.owner} ${mark.kind} ${mark.number}`} className="border-t border-line py-1.5">
            <p>
              <strong className="tabular-nums">
                {KINDS[mark.kind]} {markText(mark)}
              </strong>{" "}
              belongs to <strong>{mark.owner}</strong>
              {mark.contact && `: tell them, ${mark.contact}`}.
            </p>
            <p className="text-sm text-muted">
              {[
                mark.species,
                mark.colour,
                mark.placed_on && `placed ${formatDay(mark.placed_on)}`,
                mark.water && `in ${mark.water}`,
              ]
                .filter(Boolean)
                .join(", ")}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
