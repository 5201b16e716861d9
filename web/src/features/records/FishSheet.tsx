import { useState } from "react";
import { useSelectionOptions } from "@/features/selection";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { Sheet } from "@/ui/Sheet";
import { formatDay, formatGrams, formatInches, formatMm, formatPounds, formatTime } from "@/ui/words/format";
import { CorrectFish } from "./CorrectFish";
import { FishDoubts } from "./FishDoubts";
import { FishHistory } from "./FishHistory";
import { FishRecord } from "./FishRecord";
import { useFish } from "./queries";

/** One fish of the record: what was called, what became of it, and putting it right. */
export function FishSheet({ capture: first, onClose }: { capture: string; onClose: () => void }) {
  const [capture, setCapture] = useState(first);
  const { may, membership } = useHere();
  const { data: options } = useSelectionOptions(membership.programme);
  const { data: fish, error } = useFish(capture);
  const name = options?.species.find(({ code }) => code === fish?.capture.species)?.name;
  return (
    <Sheet
      open
      onOpenChange={(open) => !open && onClose()}
      title={
        fish
          ? [name ?? fish.capture.species, fish.capture.length_mm !== null && formatMm(fish.capture.length_mm)]
              .filter(Boolean)
              .join(", ")
          : "Fish"
      }
      description={
        fish
          ? `${fish.outing_name}, ${formatDay(fish.date)}, ${fish.run === null ? "place not shown" : `${fish.site}, run ${fish.run}`}`
          : "Reading..."
      }
    >
      {error && <ErrorMessage failure={error} />}
      {fish && (
        <>
          <dl className="grid grid-cols-[8rem_1fr] gap-x-3 gap-y-1">
            <Fact term="Length">
              {fish.capture.length_mm != null
                ? `${formatMm(fish.capture.length_mm)} (${formatInches(fish.capture.length_mm)}), ${fish.capture.length_type}, ${fish.capture.length_basis}`
                : "not taken"}
            </Fact>
            <Fact term="Mass">
              {fish.capture.mass_g != null
                ? `${formatGrams(fish.capture.mass_g)} (${formatPounds(fish.capture.mass_g)}), ${fish.capture.mass_basis}`
                : "not weighed"}
            </Fact>
            {fish.capture.scans.length > 0 && (
              <Fact term="Marks read">
                {fish.capture.scans.map(({ kind, number }) => `${kind} ${number}`).join(", ")}
              </Fact>
            )}
            {fish.capture.placed.length > 0 && (
              <Fact term="Tags given">
                {fish.capture.placed.map(({ kind, number }) => `${kind} ${number}`).join(", ")}
              </Fact>
            )}
            <Fact term="Recorded">
              {fish.measured_by && `called by ${fish.measured_by}, `}
              {fish.tagged_by && fish.capture.placed.length > 0 && `tagged by ${fish.tagged_by}, `}
              {(fish.measured_by || fish.tagged_by) && "written by "}
              {fish.recorder}
              {fish.in_name_of && `, in the name of ${fish.in_name_of} (from a file without a signature)`},{" "}
              {formatTime(fish.capture.device_time, fish.time_zone)}
            </Fact>
            {fish.deleted && <Fact term="State">deleted from the record; it can be restored</Fact>}
            {fish.capture.note && <Fact term="Note">{fish.capture.note}</Fact>}
          </dl>
          <FishRecord fish={fish} onOpen={setCapture} />
          <FishDoubts
            key={`doubts ${fish.capture.id}`}
            capture={fish.capture}
            mayAnswer={may("correct_record") && !fish.deleted}
          />
          {may("correct_record") && <CorrectFish key={fish.capture.id} fish={fish} />}
          <FishHistory capture={capture} />
        </>
      )}
    </Sheet>
  );
}

function Fact({ term, children }: { term: string; children: React.ReactNode }) {
  return (
    <>
      <dt className="text-muted">{term}</dt>
      <dd>{children}</dd>
    </>
  );
}
