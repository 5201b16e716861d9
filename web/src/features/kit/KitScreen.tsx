import { useSyncExternalStore } from "react";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { plural } from "@/ui/words/format";
import { CardList } from "./CardList";
import { Catch } from "./Catch";
import { KitSummary } from "./KitSummary";
import type { KitStore } from "./kit-store";
import { useKitStore } from "./use-kit";

/** A volunteer's own page: the kit, a fish in five touches, their cards and what became of their fish. */
export function KitScreen() {
  const { membership, person } = useHere();
  const { store, failure } = useKitStore(membership.id, person);
  if (failure)
    return (
      <main className="p-4">
        <ErrorMessage failure={failure} />
      </main>
    );
  if (!store) return <main className="p-4 text-muted">Opening your kit...</main>;
  return <Kit store={store} />;
}

function Kit({ store }: { store: KitStore }) {
  const view = useSyncExternalStore(store.subscribe, () => store.view);
  const kit = view.document;
  return (
    <main className="mx-auto max-w-xl px-3 pb-10">
      <h1 className="flex items-baseline justify-between gap-3 pt-3 text-xl font-semibold">
        Tagging kit
        <span className="text-base font-normal text-muted">{plural(kit.tags.length, "tag")} with you</span>
      </h1>
      {view.stale && (
        <p role="status" className="text-sm text-muted">
          {view.stale}
        </p>
      )}
      <Catch store={store} kit={kit} />
      <CardList store={store} kit={kit} unsent={view.unsent} refused={view.refused} />
      <KitSummary kit={kit.id} />
    </main>
  );
}
