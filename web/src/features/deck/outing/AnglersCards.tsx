import { useQuery } from "@tanstack/react-query";
import { ApiError, answer, api, type Schemas } from "@/api/client";
import { ErrorMessage } from "@/ui/Message";
import { plural, whole } from "@/ui/words/format";

const LINK = "inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-4";

/** Each angler's own day, to take home. */
export function AnglersCards({ outing }: { outing: string }) {
  const { data, error } = useQuery({
    queryKey: ["anglers", outing],
    queryFn: () => answer(api.GET("/api/v1/outings/{outing_id}/anglers", { params: { path: { outing_id: outing } } })),
    retry: false,
    staleTime: 0,
  });
  if (error instanceof ApiError) return <ErrorMessage failure={error} />;
  if (!data) return <p className="mt-3 text-muted">Anglers' own cards are available when online.</p>;
  const card = (angler: string, form: string) =>
    `/api/v1/outings/${outing}/angler-card?${new URLSearchParams({ angler, form })}`;
  return (
    <section aria-label="Anglers' own cards" className="mt-3">
      <h3 className="font-semibold">Anglers' own cards</h3>
      {!data.names.length && (
        <p className="text-muted">Say who fishes under More of a run; each then gets a card of their own day.</p>
      )}
      <ul>
        {data.names.map((name) => (
          <li key={name} className="flex flex-wrap items-center gap-2 py-0.5">
            <span className="w-48">{name}</span>
            <a className={LINK} href={card(name, "pdf")} download aria-label={`Card of ${name} (PDF)`}>
              Card (PDF)
            </a>
            <a className={LINK} href={card(name, "csv")} download aria-label={`Fish of ${name} (CSV)`}>
              Fish (CSV)
            </a>
            <a className={LINK} href={card(name, "report")} download aria-label={`Catch report of ${name} (PDF)`}>
              Catch report (PDF)
            </a>
          </li>
        ))}
      </ul>
      {data.results.map((result) => (
        <WeighIn key={`${result.species} ${result.by}`} result={result} />
      ))}
    </section>
  );
}

/** Places of an event, by what the protocol counts. */
function WeighIn({ result }: { result: Schemas["WeighIn"] }) {
  const { species, by, best, unit, nobody, standings } = result;
  const title = `Weigh-in${species && `, ${species}`}: ${best ? `best ${best} of each angler` : "all fish"} by ${by}`;
  return (
    <section aria-label={title} className="mt-3 overflow-x-auto">
      <h3 className="font-semibold">{title}</h3>
      <table className="w-full text-right">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1">Place</th>
            <th className="pl-4 text-left">Angler</th>
            <th>Total ({unit})</th>
            <th>Fish counted</th>
            <th>Released</th>
            <th>Tagged and released</th>
          </tr>
        </thead>
        <tbody>
          {standings.map((each) => (
            <tr key={each.angler} className="border-b border-line">
              <td className="py-1">{each.place}</td>
              <td className="pl-4 text-left">{each.angler}</td>
              <td>{whole(Math.round(each.total))}</td>
              <td>
                {each.counted} of {each.fish}
                {each.unmeasured > 0 && <span className="text-signal"> ! {each.unmeasured} not measured</span>}
              </td>
              <td>{each.let_go}</td>
              <td>{each.tagged_let_go}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {nobody > 0 && (
        <p className="text-sm text-signal">! {plural(nobody, "fish", "fish")} without an angler: in no total.</p>
      )}
    </section>
  );
}
