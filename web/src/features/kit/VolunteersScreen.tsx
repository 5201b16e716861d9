import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { answer, api, type Schemas } from "@/api/client";
import { useHere } from "@/session";
import { Empty, ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";

/** Everybody with tags or cards: what is with them, and which cards need a person. */
export function VolunteersScreen() {
  const { membership } = useHere();
  const programme_id = membership.programme;
  const { data, error } = useQuery({
    queryKey: ["kits", programme_id],
    queryFn: () => answer(api.GET("/api/v1/programmes/{programme_id}/kits", { params: { path: { programme_id } } })),
  });
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h1 className="mr-auto text-xl font-semibold">Volunteers and their cards</h1>
        <Link
          to="/tags"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          Stock of tags
        </Link>
      </div>
      {error && <ErrorMessage failure={error} />}
      {!data && !error && <p className="text-muted">Loading...</p>}
      {data?.length === 0 && (
        <Empty>
          Nobody has tags with them yet. Invite volunteers in Settings, People; then hand tags out to them in the stock
          of tags. Their own page, Kit, is on their phones at once.
        </Empty>
      )}
      {data && data.length > 0 && <Table kits={data} />}
    </main>
  );
}

function Table({ kits }: { kits: Schemas["ListedKit"][] }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full max-w-4xl text-left">
        <thead className="border-b border-ink text-sm">
          <tr>
            <th className="py-1 pr-3">Name</th>
            <th className="pr-3">Number</th>
            <th className="pr-3 text-right">Tags with them</th>
            <th className="pr-3 text-right">Cards</th>
            <th className="pr-3 text-right">Incomplete</th>
            <th className="pr-3 text-right">Tag to look into</th>
            <th>Last card</th>
          </tr>
        </thead>
        <tbody>
          {kits.map((kit) => (
            <tr key={kit.id} className="border-b border-line">
              <td className="pr-3">
                <Link
                  to="/kit/$kit"
                  params={{ kit: kit.id }}
                  className="inline-flex min-h-[44px] items-center font-semibold underline underline-offset-4"
                >
                  {kit.name}
                </Link>
              </td>
              <td className="pr-3 tabular-nums">{kit.number}</td>
              <td className="pr-3 text-right tabular-nums">{kit.tags}</td>
              <td className="pr-3 text-right tabular-nums">{kit.cards}</td>
              <Waits n={kit.incomplete} />
              <Waits n={kit.problems} />
              <td>{kit.last ? formatDay(kit.last) : "none yet"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Waits({ n }: { n: number }) {
  return (
    <td className={`pr-3 text-right tabular-nums ${n ? "font-semibold text-signal" : ""}`}>
      {n > 0 && <span aria-hidden="true">! </span>}
      {n}
    </td>
  );
}
