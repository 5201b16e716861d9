import { getRouteApi, Link } from "@tanstack/react-router";
import { useHere } from "@/app/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { CohortsFinding } from "./CohortsFinding";
import { ConditionCompared } from "./ConditionCompared";
import { ConditionFinding } from "./ConditionFinding";
import { KeptFindings } from "./KeptFindings";
import { useSelectionOptions } from "./queries";
import { SelectionPanel } from "./SelectionPanel";
import { SizeCompared } from "./SizeCompared";
import { SizeFinding } from "./SizeFinding";
import { changed, type Selection } from "./selection";

const route = getRouteApi("/findings/$kind");
const KINDS = {
  size: "Size",
  "size-compared": "Size compared",
  cohorts: "Cohorts",
  condition: "Condition",
  "condition-compared": "Condition compared",
  kept: "Kept",
};

/** What the fish say: a selection on the left, the answer on the right. */
export function FindingsScreen() {
  const { membership } = useHere();
  const { kind } = route.useParams();
  const search = route.useSearch();
  const navigate = route.useNavigate();
  const { data: options, error } = useSelectionOptions(membership.programme);
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!options) return <main className="p-6 text-muted">Reading what can be chosen...</main>;
  const selection = { ...search, species: search.species ?? options.species[0]?.code ?? "" };
  const change = (part: Partial<Selection>) => navigate({ search: changed(search, part), replace: true });
  return (
    <main className="grid gap-x-6 px-4 py-3 md:grid-cols-[15.5rem_minmax(0,1fr)]">
      <SelectionPanel options={options} selection={selection} onChange={change} />
      <div>
        <nav aria-label="Findings" className="flex gap-1 border-b border-line">
          {Object.entries(KINDS).map(([each, label]) => (
            <Link
              key={each}
              to="/findings/$kind"
              params={{ kind: each }}
              search={search}
              className="border-b-3 border-transparent px-3 pt-1 pb-1.5"
              activeProps={{ className: "border-ink! font-semibold" }}
              activeOptions={{ includeSearch: false }}
            >
              {label}
            </Link>
          ))}
        </nav>
        {kind === "condition" && <ConditionFinding selection={selection} />}
        {kind === "size" && <SizeFinding selection={selection} onChange={change} />}
        {kind === "size-compared" && <SizeCompared selection={selection} onChange={change} />}
        {kind === "condition-compared" && <ConditionCompared selection={selection} onChange={change} />}
        {kind === "cohorts" && <CohortsFinding selection={selection} onChange={change} />}
        {kind === "kept" && <KeptFindings />}
        {!(kind in KINDS) && <Empty>There is no finding by that name. Choose one above.</Empty>}
      </div>
    </main>
  );
}
