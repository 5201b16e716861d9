import { ArrowUp } from "lucide-react";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useSetSpecies, useSpecies } from "@/features/programme";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choice, Field } from "@/ui/Field";
import { Empty, ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import { useNameOthers, useOthers } from "./queries";
import { SpeciesSheet } from "./species/SpeciesSheet";

type Known = Schemas["KnownSpecies"];

/** What of a species is known here, in a line. */
function knownOf({ length_type, has_categories, has_standard_weight }: Known): string {
  const told = [`lengths as ${length_type}`];
  if (has_categories) told.push("size categories");
  if (has_standard_weight) told.push("standard weight");
  return told.join(", ");
}

/** Which species are called, in the order in which the Deck offers them. */
export function SpeciesPart() {
  const { membership, may } = useHere();
  const { data, error } = useSpecies(membership.programme);
  const set = useSetSpecies(membership.programme);
  const [sought, setSought] = useState("");
  const [described, setDescribed] = useState<string | null>(null);
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="text-muted">Reading the species...</p>;
  const known = new Map(data.known.map((each) => [each.code, each]));
  const listed = data.listed.flatMap((code) => known.get(code) ?? []);
  const others = data.known.filter(({ code }) => !data.listed.includes(code));
  const fits = ({ code, name, scientific_name }: Known) =>
    [code, name, scientific_name].some((each) => each.toLowerCase().includes(sought.trim().toLowerCase()));
  const choose = may("choose_species");
  const drop = (code: string, name: string) => {
    const before = data.listed;
    set.mutate(
      before.filter((each) => each !== code),
      {
        onSuccess: () =>
          notify(`${name} is not called any more. Its fish stay in the record and in findings.`, () =>
            set.mutate([...before]),
          ),
      },
    );
  };
  const first = (code: string) => set.mutate([code, ...data.listed.filter((each) => each !== code)]);
  return (
    <>
      {listed.length === 0 ? (
        <Empty>No species is called yet. Choose below what you expect to catch; the most common one first.</Empty>
      ) : (
        <ol className="mt-3 border-t border-ink">
          {listed.map((each, place) => (
            <li key={each.code} className="flex flex-wrap items-center gap-x-4 border-b border-line py-1.5">
              <strong className="w-14 shrink-0 whitespace-nowrap">{each.code}</strong>
              <span className="min-w-44">
                {each.name} <span className="block text-sm text-muted italic">{each.scientific_name}</span>
              </span>
              <span className="text-sm text-muted">
                {knownOf(each)}
                {data.own.includes(each.code) && <span className="block">as this programme describes it</span>}
              </span>
              {choose && (
                <span className="ml-auto flex gap-2">
                  <Button aria-label={`Describe ${each.name}`} onClick={() => setDescribed(each.code)}>
                    Describe
                  </Button>
                  {place > 0 && (
                    <Button aria-label={`${each.name} first`} onClick={() => first(each.code)}>
                      <ArrowUp size={16} /> First
                    </Button>
                  )}
                  <Button aria-label={`Call ${each.name} no more`} onClick={() => drop(each.code, each.name)}>
                    Retire species
                  </Button>
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
      {described !== null && (
        <SpeciesSheet
          code={described}
          own={data.own.includes(described)}
          known={data.known}
          onClose={() => setDescribed(null)}
        />
      )}
      <Others listed={listed} />
      {set.error && <ErrorMessage failure={set.error} />}
      {choose && (
        <section aria-labelledby="others" className="mt-6">
          <h3 id="others" className="font-semibold">
            Retired species
          </h3>
          <div className="mt-2 max-w-sm">
            <Field label="Search by name or code" value={sought} onChange={(event) => setSought(event.target.value)} />
          </div>
          <ul className="mt-2 grid gap-x-6 md:grid-cols-2">
            {others.filter(fits).map((each) => (
              <li key={each.code} className="flex items-center gap-3 border-b border-line py-1">
                <strong className="w-14 shrink-0 whitespace-nowrap">{each.code}</strong>
                <span className="min-w-0">
                  {each.name} <span className="text-sm text-muted italic">{each.scientific_name}</span>
                  {data.retired.includes(each.code) && (
                    <span className="block text-sm text-muted">was called before; its fish are in the record</span>
                  )}
                </span>
                <Button
                  className="ml-auto"
                  aria-label={`Call ${each.name}`}
                  onClick={() => set.mutate([...data.listed, each.code])}
                >
                  Call it
                </Button>
              </li>
            ))}
          </ul>
          <Button className="mt-3" onClick={() => setDescribed("")}>
            Describe one that is not here
          </Button>
          {others.filter(fits).length === 0 && <Empty>None of these fits "{sought}".</Empty>}
        </section>
      )}
    </>
  );
}

/** Fish that were called as other: which species they are can be said once it is on the list. */
function Others({ listed }: { listed: readonly Known[] }) {
  const { membership, may } = useHere();
  const { data: others } = useOthers(membership.programme);
  const name = useNameOthers(membership.programme);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  if (!others?.length) return null;
  return (
    <section aria-labelledby="called-as-other" className="mt-6">
      <h3 id="called-as-other" className="font-semibold">
        Called as other
      </h3>
      <ul className="mt-1">
        {others.map((each) => (
          <li key={each.name} className="flex flex-wrap items-end gap-x-4 border-t border-line py-2">
            <span className="min-w-44 pb-2">
              {each.name} <span className="text-sm text-muted">{plural(each.n, "fish", "fish")}</span>
            </span>
            {may("correct_record") && (
              <>
                <Choice
                  label="Species"
                  value={chosen[each.name] ?? ""}
                  onChange={(event) => setChosen({ ...chosen, [each.name]: event.target.value })}
                >
                  <option value="">not recorded yet</option>
                  {listed.map((kind) => (
                    <option key={kind.code} value={kind.code}>
                      {kind.name}
                    </option>
                  ))}
                </Choice>
                <Button
                  disabled={!chosen[each.name] || name.isPending}
                  onClick={() =>
                    name.mutate(
                      { name: each.name, code: chosen[each.name]! },
                      {
                        onSuccess: ({ named, left }) =>
                          notify(
                            `${plural(named, "call")} got the species; the history keeps how it was called.${left.length ? ` ${left.length} could not be of it: ${left[0]}` : ""}`,
                          ),
                      },
                    )
                  }
                >
                  Say so
                </Button>
              </>
            )}
          </li>
        ))}
      </ul>
      {name.error && <ErrorMessage failure={name.error} />}
    </section>
  );
}
