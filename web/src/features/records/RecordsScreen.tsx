import { getRouteApi } from "@tanstack/react-router";
import { useState } from "react";
import {
  NothingYet,
  SelectionPanel,
  selectionGrid,
  useAddressSelection,
  useFolded,
  useSelectionOptions,
} from "@/features/selection";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { ExportSheet } from "./ExportSheet";
import { FishSheet } from "./FishSheet";
import { RecordsTabs } from "./RecordsTabs";
import { RegisterTable } from "./RegisterTable";
import type { RegisterSearch } from "./register-search";

const route = getRouteApi("/records");

/** Every capture in one table: filter, sort, open, correct, restore, take home. */
export function RecordsScreen() {
  const { membership, may } = useHere();
  const search = route.useSearch();
  const navigate = route.useNavigate();
  const [opened, setOpened] = useState<string | null>(null);
  const [exporting, setExporting] = useState(false);
  const { data: options, error: failure } = useSelectionOptions(membership.programme);
  const { sort, deleted, ...inAddress } = search;
  const address = useAddressSelection(membership.programme, inAddress, (next) =>
    navigate({ search: { ...next, sort, deleted }, replace: true }),
  );
  const { selection, change, ready } = address;
  const [folded, setFolded] = useFolded();
  const error = failure ?? address.error;
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (!options) return <main className="p-6 text-muted">Loading filters...</main>;
  if (!options.outings.length)
    return (
      <>
        <div className="px-4 pt-3">
          <RecordsTabs />
        </div>
        <NothingYet />
      </>
    );
  if (!ready) return <main className="p-6 text-muted">Loading selection...</main>;
  const arrange = (part: Partial<RegisterSearch>) => navigate({ search: { ...search, ...part }, replace: true });
  return (
    <main className="px-4 py-3">
      <RecordsTabs />
      <div className={`pt-3 ${selectionGrid(folded)}`}>
        <SelectionPanel
          options={options}
          selection={selection}
          onChange={change}
          folded={folded}
          onFold={setFolded}
          everySpecies
        />
        <div className="flex min-w-0 flex-col">
          <div className="flex flex-wrap items-center gap-x-6 gap-y-1 pb-2">
            <h1 className="sr-only">Register</h1>
            <label className="flex min-h-[44px] items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={deleted ?? false}
                onChange={(event) => arrange({ deleted: event.target.checked || undefined })}
              />
              Show deleted
            </label>
            {may("export_rows") && (
              <Button className="ml-auto" onClick={() => setExporting(true)}>
                Export
              </Button>
            )}
          </div>
          <RegisterTable
            programme={membership.programme}
            selection={selection}
            sort={sort ?? "-time"}
            deleted={deleted ?? false}
            onSort={(next) => arrange({ sort: next === "-time" ? undefined : next })}
            onOpen={setOpened}
          />
        </div>
      </div>
      {exporting && <ExportSheet selection={selection} onClose={() => setExporting(false)} />}
      {opened && <FishSheet capture={opened} onClose={() => setOpened(null)} />}
    </main>
  );
}
