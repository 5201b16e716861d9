import { useState } from "react";
import type { Schemas } from "@/api/client";
import { ApiError } from "@/api/client";
import { NOTHING_KNOWN, useDescribeSpecies, useSpeciesValues } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { Sheet } from "@/ui/Sheet";
import { CategoriesPart } from "./CategoriesPart";
import { ConversionsPart } from "./ConversionsPart";
import { LengthsPart } from "./LengthsPart";
import { LinePart } from "./LinePart";
import { LookalikesPart } from "./LookalikesPart";
import { NamesPart } from "./NamesPart";
import { RulePart } from "./RulePart";
import type { Values } from "./values";
import { WeightPart } from "./WeightPart";

interface Props {
  /** Empty for a new one. */
  code: string;
  own: boolean;
  known: readonly Schemas["KnownSpecies"][];
  onClose: () => void;
}

/** What this programme knows of a species; a change is for this programme alone, and its history is kept. */
export function SpeciesSheet({ code, own, known, onClose }: Props) {
  const { membership } = useHere();
  const { data, error } = useSpeciesValues(membership.programme, code || "wal");
  if (error && code) return <ErrorMessage failure={error} />;
  const values = code ? (data as Values | undefined) : NOTHING_KNOWN;
  return (
    <Sheet
      open
      onOpenChange={onClose}
      title={code ? `Describe ${values?.common_name ?? code}` : "Describe a species"}
      description="For this programme. Deck, findings and files take these values; what they were is kept."
    >
      {values && <Form key={code} code={code} own={own} known={known} kept={values} onClose={onClose} />}
    </Sheet>
  );
}

function Form({ code, own, known, kept, onClose }: Props & { kept: Values }) {
  const { membership } = useHere();
  const describe = useDescribeSpecies(membership.programme, code);
  const [values, setValues] = useState(kept);
  const [newCode, setNewCode] = useState("");
  const failure = describe.error;
  const field = failure instanceof ApiError ? failure.field : null;
  const wrong = (name: string) => (field === name && failure ? failure.message : undefined);
  const shown = field !== null && field !== "words" && !field.startsWith("lookalikes");
  const set = (part: Partial<Values>) => setValues({ ...values, ...part });
  const part = { values, set, wrong, field };
  const keep = () =>
    describe.mutate(
      { as: code || newCode.trim(), values: values as Schemas["SpeciesValuesRequest"] },
      {
        onSuccess: (now) => {
          notify(`${now.common_name}: kept for this programme.`);
          onClose();
        },
      },
    );
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep();
      }}
    >
      <NamesPart {...part} code={code} newCode={newCode} onNewCode={setNewCode} />
      <LengthsPart {...part} />
      <LinePart {...part} code={code} />
      <WeightPart {...part} />
      <CategoriesPart {...part} />
      <RulePart {...part} />
      <ConversionsPart {...part} />
      <LookalikesPart {...part} code={code} known={known} />
      {failure && (!shown || !field) && <ErrorMessage failure={failure} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="ink" large disabled={describe.isPending}>
          Save for this programme
        </Button>
        {own && (
          <Button
            large
            onClick={() =>
              describe.mutate(
                { values: null },
                {
                  onSuccess: () => {
                    notify("Known as it ships again.");
                    onClose();
                  },
                },
              )
            }
          >
            As it ships
          </Button>
        )}
      </div>
    </form>
  );
}
