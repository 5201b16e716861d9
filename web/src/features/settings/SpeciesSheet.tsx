import { type ReactNode, useState } from "react";
import type { Schemas } from "@/api/client";
import { ApiError } from "@/api/client";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { NumberField } from "@/ui/NumberField";
import { Sheet } from "@/ui/Sheet";
import { Tick } from "@/ui/Tick";
import { LookAlikePicture } from "./LookAlikePicture";
import { type SpeciesValues, useDescribeSpecies, useOwnLine, useSpeciesValues } from "./queries";

type Values = SpeciesValues;
const TYPES: Record<Schemas["LengthTypeEnum"], string> = {
  TL: "total length, tail pinched",
  TLn: "total length, natural",
  FL: "fork length",
  SL: "standard length",
  LJFL: "lower jaw to fork",
  EFL: "eye to fork",
  DW: "disc width",
};
const CATEGORIES = ["stock", "quality", "preferred", "memorable", "trophy"] as const;

/** A new one: nothing is known of it yet, except that it needs these. */
const NOTHING: Values = {
  common_name: "",
  scientific_name: "",
  words: [],
  length_type: "TL",
  usual_from_mm: 50,
  usual_to_mm: 500,
  least_mm: 10,
  most_mm: 1000,
  line: { log10_a: -5, b: 3, sd: 0.08, source: "a general line, until fish are weighed" },
  standard_weight: null,
  categories: null,
  conversions: [],
  legal: null,
  smallest_to_tag_mm: null,
  lookalikes: [],
  special_interest: false,
  places_hidden: false,
  swim_bladder: "closed",
};

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
  const values = code ? (data as Values | undefined) : NOTHING;
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
  const fit = useOwnLine(membership.programme, code);
  const [values, setValues] = useState(kept);
  const [newCode, setNewCode] = useState("");
  const failure = describe.error;
  const field = failure instanceof ApiError ? failure.field : null;
  const wrong = (name: string) => (field === name && failure ? failure.message : undefined);
  const shown = field !== null && field !== "words" && !field.startsWith("lookalikes");
  const set = (part: Partial<Values>) => setValues({ ...values, ...part });
  /** A figure of the values themselves or of one of their parts. */
  const figure = (name: keyof Values & `${string}_mm`, label: string) => (
    <NumberField
      key={name}
      live
      label={label}
      unit="mm"
      value={values[name] as number}
      error={wrong(name)}
      onNumber={(number) => set({ [name]: number })}
    />
  );
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
      <div className="grid grid-cols-2 gap-3">
        {!code && (
          <Field
            label="Code it is called by"
            hint="2 to 8 small letters"
            value={newCode}
            required
            maxLength={8}
            error={wrong("code")}
            onChange={(event) => setNewCode(event.target.value)}
          />
        )}
        <Field
          label="Name"
          value={values.common_name}
          required
          maxLength={60}
          error={wrong("common_name")}
          onChange={(event) => set({ common_name: event.target.value })}
        />
        <Field
          label="Scientific name"
          value={values.scientific_name}
          maxLength={80}
          onChange={(event) => set({ scientific_name: event.target.value })}
        />
        <Field
          label="Further words it is called by"
          hint="With commas between"
          value={values.words.join(", ")}
          error={wrong("words")}
          onChange={(event) => set({ words: event.target.value.split(",").map((word) => word.trimStart()) })}
          onBlur={() => set({ words: values.words.map((word) => word.trim()).filter(Boolean) })}
        />
      </div>
      <Part title="Lengths" open>
        <div className="grid grid-cols-2 gap-3">
          <div className="col-span-2">
            <Choice
              label="Measured as"
              value={values.length_type}
              onChange={(event) => set({ length_type: event.target.value as Values["length_type"] })}
            >
              {Object.entries(TYPES).map(([type, words]) => (
                <option key={type} value={type}>
                  {type}, {words}
                </option>
              ))}
            </Choice>
          </div>
          {figure("usual_from_mm", "Usually from")}
          {figure("usual_to_mm", "Usually to")}
          {figure("least_mm", "None is shorter than")}
          {figure("most_mm", "None is longer than")}
        </div>
      </Part>
      <Part title="Length-mass line" open={field?.startsWith("line")}>
        <p className="text-sm text-muted">
          log10 mass (g) = log10 a + b · log10 length (mm). From 30 weighed fish on, the Deck judges a mass by the line
          of this programme's own fish.
        </p>
        <Figures
          part={values.line}
          names={{ log10_a: "log10 a", b: "b", sd: "residual SD of log10 mass" }}
          at="line"
          wrong={wrong}
          onChange={(line) => set({ line })}
        />
        {code && (
          <Button
            className="mt-2"
            onClick={() => fit.mutate(undefined, { onSuccess: (line) => set({ line: line as Values["line"] }) })}
          >
            Fit it to our own fish
          </Button>
        )}
        {fit.error && <ErrorMessage failure={fit.error} />}
      </Part>
      <Part title="Standard weight" open={field?.startsWith("standard_weight")}>
        <Known
          what="a standard weight"
          known={values.standard_weight !== null}
          onKnown={(is) => set({ standard_weight: is ? { a: -5, b: 3, min_mm: 100, source: "" } : null })}
        />
        {values.standard_weight && (
          <Figures
            part={values.standard_weight}
            names={{ a: "a", b: "b", min_mm: "valid from (mm)" }}
            at="standard_weight"
            wrong={wrong}
            onChange={(standard_weight) => set({ standard_weight })}
          />
        )}
      </Part>
      <Part title="Size categories" open={field?.startsWith("categories")}>
        <Known
          what="size categories"
          known={values.categories !== null}
          onKnown={(is) =>
            set({
              categories: is
                ? { stock: 200, quality: 300, preferred: 380, memorable: 450, trophy: 550, source: "" }
                : null,
            })
          }
        />
        {values.categories && (
          <Figures
            part={values.categories}
            names={Object.fromEntries(CATEGORIES.map((name) => [name, `${name} (mm)`]))}
            at="categories"
            wrong={wrong}
            onChange={(categories) => set({ categories })}
          />
        )}
      </Part>
      <Part title="Rule and tag" open={field?.startsWith("legal")}>
        <Known
          what="a legal size or bag"
          known={values.legal !== null}
          onKnown={(is) => set({ legal: is ? { min_mm: null, max_mm: null, bag: null, source: "" } : null })}
        />
        {values.legal && (
          <Figures
            part={values.legal}
            names={{ min_mm: "may be kept from (mm)", max_mm: "to (mm)", bag: "fish a person and day" }}
            at="legal"
            optional
            wrong={wrong}
            onChange={(legal) => set({ legal })}
          />
        )}
        <div className="mt-3 grid grid-cols-2 gap-3">
          <NumberField
            live
            optional
            label="Smallest fish to tag"
            unit="mm"
            value={values.smallest_to_tag_mm}
            error={wrong("smallest_to_tag_mm")}
            onNumber={(smallest_to_tag_mm) => set({ smallest_to_tag_mm })}
          />
          <label className="flex min-h-[44px] items-center gap-2 self-end">
            <input
              type="checkbox"
              className="size-5"
              checked={values.special_interest}
              onChange={() => set({ special_interest: !values.special_interest })}
            />
            the lead wants to hear of each one
          </label>
          <label className="flex min-h-[44px] items-center gap-2 self-end">
            <input
              type="checkbox"
              className="size-5"
              checked={values.places_hidden}
              onChange={() => set({ places_hidden: !values.places_hidden })}
            />
            its sites are shown to crew, biologists and leads only
          </label>
          <Choice
            label="Swim bladder"
            hint="Of a fish from depth it says whether gas lifts it."
            value={values.swim_bladder}
            onChange={(event) => set({ swim_bladder: event.target.value as Values["swim_bladder"] })}
          >
            <option value="closed">closed: gas stays in</option>
            <option value="open">open to the gut: some leaves on the way up</option>
            <option value="none">none</option>
          </Choice>
        </div>
      </Part>
      <Part title="Other ways of measuring" open={field?.startsWith("conversions")}>
        <p className="text-sm text-muted">
          {values.length_type} = intercept + slope × the other length. With the line's residual SD; findings then use
          such lengths as derived, and say so.
        </p>
        {values.conversions.map((each, place) => (
          <div key={`${place}-${each.from_type}`} className="mt-2 border-l-4 border-line pl-3">
            <Choice
              label="Measured as"
              value={each.from_type}
              error={wrong(`conversions.${place}.from_type`)}
              onChange={(event) =>
                set({
                  conversions: replaced(values.conversions, place, { ...each, from_type: event.target.value as "FL" }),
                })
              }
            >
              {Object.keys(TYPES).map((type) => (
                <option key={type}>{type}</option>
              ))}
            </Choice>
            <Figures
              part={each}
              names={{ intercept_mm: "intercept (mm)", slope: "slope", residual_sd_mm: "residual SD (mm)" }}
              at={`conversions.${place}`}
              wrong={wrong}
              onChange={(next) => set({ conversions: replaced(values.conversions, place, next) })}
            />
            <Button
              className="mt-2"
              onClick={() => set({ conversions: values.conversions.filter((_, other) => other !== place) })}
            >
              Take it out
            </Button>
          </div>
        ))}
        <Button
          className="mt-2"
          onClick={() =>
            set({
              conversions: [
                ...values.conversions,
                {
                  from_type: values.length_type === "FL" ? "TL" : "FL",
                  intercept_mm: 0,
                  slope: 1,
                  residual_sd_mm: null,
                  source: "",
                },
              ],
            })
          }
        >
          Add a conversion
        </Button>
      </Part>
      <Part title="Looks like" open={field?.startsWith("lookalikes")}>
        {values.lookalikes.map((each, place) => (
          <div key={`${place}-${each.code}`} className="mt-2 grid grid-cols-[1fr_2fr_auto] items-end gap-3">
            <Choice
              label="Taken for"
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
              label="What tells them apart"
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
      {failure && (!shown || !field) && <ErrorMessage failure={failure} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" look="ink" large disabled={describe.isPending}>
          Keep for this programme
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

function replaced<T>(list: readonly T[], place: number, next: T): T[] {
  return list.map((each, other) => (other === place ? next : each));
}

function Part({ title, open = false, children }: { title: string; open?: boolean; children: ReactNode }) {
  return (
    <details open={open} className="border-t border-line pt-1">
      <summary className="min-h-[44px] cursor-pointer py-2.5 font-semibold">{title}</summary>
      {children}
    </details>
  );
}

function Known({ what, known, onKnown }: { what: string; known: boolean; onKnown: (is: boolean) => void }) {
  return (
    <label className="flex min-h-[44px] items-center gap-2">
      <input type="checkbox" className="size-5" checked={known} onChange={() => onKnown(!known)} />
      there is {what}
    </label>
  );
}

interface FiguresProps<T> {
  part: T;
  names: Record<string, string>;
  at: string;
  optional?: boolean;
  wrong: (field: string) => string | undefined;
  onChange: (part: T) => void;
}

/** Figures of one part, and where they are from. */
function Figures<T extends { source: string }>({ part, names, at, optional, wrong, onChange }: FiguresProps<T>) {
  return (
    <div className="mt-1 grid grid-cols-3 gap-3">
      {Object.entries(names).map(([name, label]) => (
        <NumberField
          key={name}
          live
          optional={optional}
          label={label}
          value={part[name as keyof T] as number | null}
          error={wrong(`${at}.${name}`)}
          onNumber={(number) => onChange({ ...part, [name]: number })}
        />
      ))}
      <div className="col-span-3">
        <Field
          label="Source"
          value={part.source}
          maxLength={200}
          error={wrong(`${at}.source`)}
          onChange={(event) => onChange({ ...part, source: event.target.value })}
        />
      </div>
    </div>
  );
}
