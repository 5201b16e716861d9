import { getRouteApi, Link } from "@tanstack/react-router";
import { useHere } from "@/app/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { Beside } from "./Beside";
import { CohortsFinding } from "./CohortsFinding";
import { ConditionCompared } from "./ConditionCompared";
import { ConditionFinding } from "./ConditionFinding";
import { KeptFindings } from "./KeptFindings";
import { NothingYet } from "./NothingYet";
import { useSelectionOptions } from "./queries";
import { SelectionPanel, selectionGrid, useFolded } from "./SelectionPanel";
import { SizeCompared } from "./SizeCompared";
import { SizeFinding } from "./SizeFinding";
import { useAddressSelection } from "./use-address-selection";

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
  const { data: options, error: failure } = useSelectionOptions(membership.programme);
  const address = useAddressSelection(membership.programme, search, (next) =>
    navigate({ search: next, replace: true }),
  );
  const { selection: chosen, change, ready } = address;
  const [folded, setFolded] = useFolded();
  const error = failure ?? address.error;
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!options) return <main className="p-6 text-muted">Reading what can be chosen...</main>;
  if (!options.outings.length) return <NothingYet />;
  if (!ready) return <main className="p-6 text-muted">Reading what was chosen...</main>;
  const selection = { ...chosen, species: chosen.species ?? options.species[0]?.code ?? "" };
  const kept = kind === "kept";
  return (
    <main className={`px-4 py-3 ${kept ? "" : selectionGrid(folded)}`}>
      {!kept && (
        <SelectionPanel options={options} selection={selection} onChange={change} folded={folded} onFold={setFolded} />
      )}
      <div className="min-w-0">
        <nav aria-label="Findings" className="flex gap-1 overflow-x-auto border-b border-line">
          {Object.entries(KINDS).map(([each, label]) => (
            <Link
              key={each}
              to="/findings/$kind"
              params={{ kind: each }}
              search={search}
              className="inline-flex min-h-[44px] items-end whitespace-nowrap border-b-3 border-transparent px-3 pb-1.5"
              activeProps={{ className: "border-ink! font-semibold" }}
              activeOptions={{ includeSearch: false }}
            >
              {label}
            </Link>
          ))}
        </nav>
        {kind === "condition" && <ConditionFinding selection={selection} onChange={change} />}
        {kind === "size" && <SizeFinding selection={selection} onChange={change} />}
        {kind === "size-compared" && <SizeCompared selection={selection} onChange={change} />}
        {kind === "condition-compared" && <ConditionCompared selection={selection} onChange={change} />}
        {kind === "cohorts" && <CohortsFinding selection={selection} onChange={change} />}
        {kind === "kept" && <KeptFindings />}
        {kind in KINDS && !kept && <Beside selection={selection} />}
        {!(kind in KINDS) && <Empty>There is no finding by that name. Choose one above.</Empty>}
      </div>
    </main>
  );
}
