import { getRouteApi, Link } from "@tanstack/react-router";
import {
  NothingYet,
  type Selection,
  SelectionPanel,
  selectionGrid,
  useAddressSelection,
  useFolded,
  useSelectionOptions,
} from "@/features/selection";
import { useHere } from "@/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { FINDINGS, GROUPS } from "./finding-screens";
import { SavedFindings } from "./SavedFindings";
import { SeriesOverlay } from "./SeriesOverlay";

const route = getRouteApi("/findings/$kind");

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
  if (!options) return <main className="p-6 text-muted">Loading filters...</main>;
  if (!options.outings.length) return <NothingYet />;
  if (!ready) return <main className="p-6 text-muted">Loading selection...</main>;
  const first = options.kinds.find((each) => each.kind === kind)?.species;
  const selection = { ...chosen, species: chosen.species ?? (first || options.species[0]?.code) ?? "" };
  const saved = kind === "saved";
  const shown = FINDINGS.find((each) => each.kind === kind);
  return (
    <main className={`px-4 py-3 ${saved ? "" : selectionGrid(folded)}`}>
      {!saved && (
        <SelectionPanel
          options={options}
          selection={selection}
          onChange={change}
          folded={folded}
          onFold={setFolded}
          read={options.kinds.find((each) => each.kind === kind)?.filters}
        />
      )}
      <div className="min-w-0">
        <FindingsNav shown={kind} search={{ ...search, ask: undefined }} />
        {shown && <shown.Finding selection={selection} onChange={change} />}
        {saved && <SavedFindings />}
        {shown && <SeriesOverlay selection={selection} />}
        {!shown && !saved && <Empty>There is no finding by that name. Choose one above.</Empty>}
      </div>
    </main>
  );
}

/** Groups by what a biologist asks, and the kinds of the one that is shown; a group leads to its first kind, with the same fish. */
function FindingsNav({ shown, search }: { shown: string; search: Selection }) {
  const current = FINDINGS.find(({ kind }) => kind === shown)?.group;
  const groups = GROUPS.filter((each) => FINDINGS.some(({ group }) => group === each));
  const kinds = FINDINGS.filter(({ group }) => group === current);
  return (
    <>
      <nav aria-label="Findings" className="flex gap-1 overflow-x-auto border-b border-line">
        {groups.map((group) => (
          <FindingLink
            key={group}
            kind={FINDINGS.find((each) => each.group === group)!.kind}
            search={search}
            current={group === current}
          >
            {group}
          </FindingLink>
        ))}
        <FindingLink kind="saved" search={search} current={shown === "saved"}>
          Saved findings
        </FindingLink>
      </nav>
      {kinds.length > 0 && (
        <nav aria-label={current} className="flex gap-1 overflow-x-auto border-b border-line text-sm">
          {kinds.map(({ kind, title }) => (
            <FindingLink key={kind} kind={kind} search={search} current={kind === shown}>
              {title}
            </FindingLink>
          ))}
        </nav>
      )}
    </>
  );
}

interface LinkProps {
  kind: string;
  search: Selection;
  current: boolean;
  children: string;
}

function FindingLink({ kind, search, current, children }: LinkProps) {
  return (
    <Link
      to="/findings/$kind"
      params={{ kind }}
      search={search}
      aria-current={current ? "page" : undefined}
      className={`inline-flex min-h-[44px] items-end whitespace-nowrap border-b-3 px-3 pb-1.5 ${current ? "border-ink font-semibold" : "border-transparent"}`}
    >
      {children}
    </Link>
  );
}
