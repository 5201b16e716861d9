import { Link } from "@tanstack/react-router";
import { useHere } from "@/session";

const TAB = "border-b-2 border-transparent pb-1 hover:border-line";
const HERE = { className: "border-ink! font-semibold" };

/** What Records holds. */
export function RecordsTabs() {
  const { may } = useHere();
  return (
    <nav aria-label="Records" className="flex gap-5 border-b border-line text-lg">
      <Link to="/records" className={TAB} activeProps={HERE} activeOptions={{ exact: true, includeSearch: false }}>
        Register
      </Link>
      {may("import_rows") && (
        <Link to="/records/files" className={TAB} activeProps={HERE}>
          Imports
        </Link>
      )}
    </nav>
  );
}
