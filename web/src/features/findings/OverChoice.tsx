import type { Selection } from "@/features/selection";
import { Choices } from "@/ui/Choices";

/** What intervals and tests are over: fish of one site are alike, so sites by default. */
export function OverChoice({
  over,
  onChange,
}: {
  over: Selection["over"];
  onChange: (part: Partial<Selection>) => void;
}) {
  return (
    <Choices
      label="Intervals over"
      options={[
        { value: "sites", label: "sites" },
        { value: "fish", label: "fish" },
      ]}
      chosen={over ?? "sites"}
      onChoose={(chosen) => onChange({ over: chosen === "fish" ? "fish" : undefined })}
    />
  );
}
