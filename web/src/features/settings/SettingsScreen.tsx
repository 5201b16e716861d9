import { Link, type LinkProps, useParams } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useToday } from "@/features/programme";
import { useHere } from "@/session";
import { AccountPart } from "./AccountPart";
import { PeoplePart } from "./PeoplePart";
import { ProgrammePart } from "./ProgrammePart";
import { ProtocolPart } from "./ProtocolPart";
import { SpeciesPart } from "./SpeciesPart";
import { WatersPart } from "./WatersPart";

const PARTS = [
  { part: "account", title: "My account", shown: AccountPart },
  { part: "programme", title: "Programme", shown: ProgrammePart },
  { part: "waters", title: "Waters and sites", shown: WatersPart },
  { part: "species", title: "Species", shown: SpeciesPart },
  { part: "people", title: "People", shown: PeoplePart },
  { part: "protocol", title: "Protocol", shown: ProtocolPart },
] as const;

/** Who one is, and what the programme is made of. */
export function SettingsScreen() {
  const { part } = useParams({ from: "/settings/$part" });
  const { membership } = useHere();
  const { data: today } = useToday(membership.programme);
  const chosen = PARTS.find((each) => each.part === part) ?? PARTS[0];
  return (
    <main className="mx-auto max-w-6xl px-4 py-5">
      <h1 className="text-2xl font-semibold">Settings</h1>
      <div className="mt-3 grid gap-x-8 gap-y-4 md:grid-cols-[12rem_1fr]">
        <nav aria-label="Settings" className="flex flex-wrap gap-x-1 self-start md:flex-col md:border-r md:border-line">
          {PARTS.map((each) => (
            <Link
              key={each.part}
              to="/settings/$part"
              params={{ part: each.part }}
              aria-current={each === chosen ? "page" : undefined}
              className={`inline-flex min-h-[44px] items-center border-b-3 px-3 hover:border-line md:border-b-0 md:border-l-3 ${each === chosen ? "border-ink font-semibold" : "border-transparent"}`}
            >
              {each.title}
            </Link>
          ))}
        </nav>
        <section aria-labelledby="part" className="min-w-0">
          <h2 id="part" className="text-xl font-semibold">
            {chosen.title}
          </h2>
          <chosen.shown />
          {chosen.part !== "account" && <NextStep part={chosen.part} steps={today?.steps ?? []} />}
        </section>
      </div>
    </main>
  );
}

/** The steps that are done in settings, in their order. */
const PART_OF_STEP = { water: "waters", species: "species", people: "people", protocol: "protocol" } as const;
const WORDS = { water: "Waters and sites", species: "Species", people: "People", protocol: "Protocol" };
const isHere = (code: Schemas["Step"]["code"]): code is keyof typeof PART_OF_STEP => code in PART_OF_STEP;

/** Before the first outing: on to what is missing, in the order in which it is needed. */
function NextStep({ part, steps }: { part: string; steps: readonly Schemas["Step"][] }) {
  if (!steps.length) return null;
  const at = steps.findIndex(({ code }) => isHere(code) && PART_OF_STEP[code] === part);
  const next = steps.slice(at + 1).find(({ code, done }) => !done && isHere(code))?.code;
  const link: LinkProps =
    next && isHere(next) ? { to: "/settings/$part", params: { part: PART_OF_STEP[next] } } : { to: "/" };
  return (
    <p className="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
      <span className="text-muted">On the way to the first outing; all of this can be left for later.</span>
      <Link
        {...link}
        className="ml-auto inline-flex min-h-[44px] items-center rounded-sm border border-ink bg-ink px-4 text-on-ink"
      >
        {next && isHere(next) ? `Next: ${WORDS[next]}` : "Back to Today: what is left"}
      </Link>
    </p>
  );
}
