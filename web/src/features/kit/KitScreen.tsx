import { Link } from "@tanstack/react-router";
import { useSyncExternalStore } from "react";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { plural } from "@/ui/words/format";
import { CardList } from "./CardList";
import { Catch } from "./Catch";
import { KitSummary } from "./KitSummary";
import type { KitStore } from "./kit-store";
import { PaperCard } from "./PaperCard";
import { useKitStore } from "./use-kit";

/** A volunteer's own page: the kit, a fish in five touches, their cards and what became of their fish. */
export function KitScreen({ kit }: { kit?: string }) {
  const { membership, person } = useHere();
  const { store, failure } = useKitStore(kit ?? membership.id, person);
  if (failure)
    return (
      <main className="p-4">
        <ErrorMessage failure={failure} />
      </main>
    );
  if (!store) return <main className="p-4 text-muted">Opening your kit...</main>;
  return <Kit store={store} own={!kit || kit === membership.id} />;
}

function Kit({ store, own }: { store: KitStore; own: boolean }) {
  const view = useSyncExternalStore(store.subscribe, () => store.view);
  const kit = view.document;
  return (
    <main className="mx-auto max-w-xl px-3 pb-10">
      <h1 className="flex items-baseline justify-between gap-3 pt-3 text-xl font-semibold">
        {own ? "Tagging kit" : `Kit of ${kit.person_name}`}
        <span className="text-base font-normal text-muted">{plural(kit.tags.length, "tag")} not placed yet</span>
      </h1>
      {view.stale && (
        <p role="status" className="text-sm text-muted">
          {view.stale}
        </p>
      )}
      {own && (
        <Link to="/kit/course" className="inline-flex min-h-[44px] items-center underline underline-offset-4">
          Tagging course
        </Link>
      )}
      {own ? <Catch store={store} kit={kit} /> : <PaperCard store={store} kit={kit} />}
      <CardList store={store} kit={kit} unsent={view.unsent} refused={view.refused} />
      <KitSummary kit={kit.id} />
    </main>
  );
}
