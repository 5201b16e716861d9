import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { Part } from "./Figures";
import { LookAlikePicture } from "./LookAlikePicture";
import { type PartProps, replaced } from "./values";

/** Species that it is taken for, and what tells them apart. */
export function LookalikesPart({
  code,
  known,
  values,
  set,
  wrong,
  field,
}: PartProps & { code: string; known: readonly Schemas["KnownSpecies"][] }) {
  return (
    <Part title="Look-alike species" open={field?.startsWith("lookalikes")}>
      {values.lookalikes.map((each, place) => (
        <div key={`${place}-${each.code}`} className="mt-2 grid grid-cols-[1fr_2fr_auto] items-end gap-3">
          <Choice
            label="Confused with"
            value={each.code}
            onChange={(event) =>
              set({ lookalikes: replaced(values.lookalikes, place, { ...each, code: event.target.value }) })
            }
          >
            {known
              .filter((other) => other.code !== code)
              .map((other) => (
                <option key={other.code} value={other.code}>
                  {other.name}
                </option>
              ))}
          </Choice>
          <Field
            label="Distinguishing features"
            value={each.check}
            maxLength={200}
            error={wrong(`lookalikes.${place}.check`)}
            onChange={(event) =>
              set({ lookalikes: replaced(values.lookalikes, place, { ...each, check: event.target.value }) })
            }
          />
          <Button
            aria-label="Take this lookalike out"
            onClick={() => set({ lookalikes: values.lookalikes.filter((_, other) => other !== place) })}
          >
            Out
          </Button>
          <div className="col-span-3 grid items-end gap-3 sm:grid-cols-[2fr_1fr]">
            <Field
              label="What to do when unsure"
              value={each.unsure ?? ""}
              maxLength={200}
              onChange={(event) =>
                set({ lookalikes: replaced(values.lookalikes, place, { ...each, unsure: event.target.value }) })
              }
            />
            <Tick
              label="ask for a photo"
              checked={each.photo ?? false}
              onChange={(photo) => set({ lookalikes: replaced(values.lookalikes, place, { ...each, photo }) })}
            />
          </div>
          <LookAlikePicture
            picture={each.picture ?? ""}
            error={wrong(`lookalikes.${place}.picture`)}
            onPicture={(picture) => set({ lookalikes: replaced(values.lookalikes, place, { ...each, picture }) })}
          />
        </div>
      ))}
      <Button
        className="mt-2"
        onClick={() =>
          set({
            lookalikes: [
              ...values.lookalikes,
              {
                code: known.find((other) => other.code !== code)?.code ?? "",
                check: "",
                unsure: "",
                photo: false,
                picture: "",
              },
            ],
          })
        }
      >
        Add a lookalike
      </Button>
    </Part>
  );
}
