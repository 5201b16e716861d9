import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { BoardDrawing } from "./BoardDrawing";
import type { Course, CourseResult } from "./queries";

export interface Practice {
  number_text: string;
  length: string;
  length_basis: "measured" | "estimated";
  condition: number | null;
}

interface Props {
  fish: Course["practice"];
  card: Practice;
  onChange: (part: Partial<Practice>) => void;
  result: CourseResult | undefined;
}

const CONDITIONS: readonly [number, string][] = [
  [1, "swims off strongly at once"],
  [2, "swims off slowly"],
  [3, "cannot hold itself upright"],
  [4, "does not move"],
];

/** One fish to practise on: its card is filled in from what the drawing shows. Nothing of it enters the record. */
export function PracticeCard({ fish, card, onChange, result }: Props) {
  const { membership } = useHere();
  const wrong = result?.practice ?? {};
  return (
    <div className="grid gap-3">
      <BoardDrawing length_mm={fish.length_mm} number={fish.number} />
      <p>
        It is on your board, tag in. You release it: <em>{fish.behaviour}</em> Fill in its card.
      </p>
      <Field
        label="Number on the tag"
        value={card.number_text}
        maxLength={40}
        error={wrong.number_text}
        onChange={({ target }) => onChange({ number_text: target.value })}
      />
      <Field
        label="Length"
        unit={membership.length_unit}
        inputMode="decimal"
        value={card.length}
        maxLength={20}
        error={wrong.length ?? wrong.length_basis}
        onChange={({ target }) => onChange({ length: target.value })}
      />
      <Tick
        label="Estimated, not measured"
        checked={card.length_basis === "estimated"}
        onChange={(estimated) => onChange({ length_basis: estimated ? "estimated" : "measured" })}
      />
      <fieldset>
        <legend className="pb-1 font-semibold">Condition at release</legend>
        <div className="grid grid-cols-1 gap-1.5 sm:grid-cols-2">
          {CONDITIONS.map(([code, words]) => (
            <Button
              key={code}
              look={card.condition === code ? "ink" : "plain"}
              aria-pressed={card.condition === code}
              className="justify-start! text-left whitespace-normal!"
              onClick={() => onChange({ condition: code })}
            >
              {code} {words}
            </Button>
          ))}
        </div>
      </fieldset>
      {wrong.condition && <p className="text-signal">{wrong.condition}</p>}
    </div>
  );
}
