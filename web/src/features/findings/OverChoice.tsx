import type { Selection } from "@/features/selection";
import { Choices } from "@/ui/Choices";

const SITES = { value: "sites", label: "sites" } as const;
const YEARS = { value: "years", label: "sites and years" } as const;
const FISH = { value: "fish", label: "fish" } as const;

/**
 * What intervals and tests are over: fish of one site are alike, so sites by default. A question on one group may be about the water
 * in any year (`anyYear`): then years differ by chance too.
 */
export function OverChoice({
  over,
  anyYear = false,
  onChange,
}: {
  over: Selection["over"];
  anyYear?: boolean;
  onChange: (part: Partial<Selection>) => void;
}) {
  return (
    <Choices
      label="Intervals over"
      options={anyYear ? [SITES, YEARS, FISH] : [SITES, FISH]}
      chosen={over === "years" && !anyYear ? "sites" : (over ?? "sites")}
      onChoose={(chosen) => onChange({ over: chosen === "sites" ? undefined : chosen })}
    />
  );
}
