import { getRouteApi, Link } from "@tanstack/react-router";
import { useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Choices } from "@/ui/Choices";
import { Empty, ErrorMessage } from "@/ui/Message";
import { notify } from "@/ui/Notice";
import { plural } from "@/ui/words/format";
import { EnterReturn } from "./EnterReturn";
import { PublicPageSheet } from "./PublicPageSheet";
import { useDecide, useReturns } from "./queries";
import { ReportList } from "./ReportList";
import { ReportPanel } from "./ReportPanel";
import { RewardsSheet } from "./RewardsSheet";
import type { Box } from "./returns-search";
import { useReportKeys } from "./use-report-keys";

const route = getRouteApi("/tags/returns");

/** The in-box of reports: what came, what speaks against it, and what is decided. */
export function ReturnsScreen() {
  const { membership, may } = useHere();
  const { box = "open", report } = route.useSearch();
  const navigate = route.useNavigate();
  const { data, error, hasNextPage, fetchNextPage } = useReturns(membership.programme, box);
  const [opened, setOpened] = useState<"enter" | "page" | "rewards" | null>(null);
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const show = (next: string | undefined) => void navigate({ search: { box, report: next }, replace: true });
  const reports = data?.pages.flatMap((page) => page.reports) ?? [];
  const shown = report ?? reports[0]?.id;
  const step = (by: number) => {
    const next = reports[reports.findIndex(({ id }) => id === shown) + by];
    if (next) show(next.id);
  };
  useReportKeys({ arrowdown: () => step(1), arrowup: () => step(-1) });
  const counts = data?.pages[0]?.counts;
  const open = counts ? (counts.received ?? 0) + (counts.matched ?? 0) + (counts.asked ?? 0) : 0;
  return (
    <main className="px-4 py-3">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-2 pb-2">
        <h1 className="mr-auto text-xl font-semibold">Reports of tags</h1>
        <Link
          to="/tags"
          className="inline-flex min-h-[44px] items-center rounded-sm border border-line bg-raised px-3 hover:border-ink"
        >
          Stock of tags
        </Link>
        <Button large look="ink" onClick={() => setOpened("enter")}>
          Enter report
        </Button>
        <Button large onClick={() => setOpened("rewards")}>
          Rewards
        </Button>
        <Button large onClick={() => setOpened("page")}>
          Public page
        </Button>
      </div>
      {error && <ErrorMessage failure={error} />}
      <div className="pb-2">
        <Choices<Box>
          label="Show"
          options={[
            { value: "open", label: `To decide${counts ? ` (${open})` : ""}` },
            { value: "verified", label: `Verified${counts ? ` (${counts.verified})` : ""}` },
            { value: "rejected", label: `Rejected${counts ? ` (${counts.rejected})` : ""}` },
            { value: "all", label: "All" },
          ]}
          chosen={box}
          onChoose={(next) => {
            setTicked(new Set());
            void navigate({ search: { box: next } });
          }}
        />
      </div>
      {data && !reports.length && (
        <Empty>
          {box === "open"
            ? "No report waits. Finders report tags on your public page; a telephone call is entered here."
            : "No reports here yet."}
        </Empty>
      )}
      {!data && !error && <p className="text-muted">Loading...</p>}
      {reports.length > 0 && (
        <div className="grid items-start gap-4 lg:grid-cols-[minmax(20rem,26rem)_1fr]">
          <div>
            {may("verify_returns") && ticked.size > 0 && (
              <DecideTicked ticked={ticked} onDone={() => setTicked(new Set())} />
            )}
            <ReportList reports={reports} shown={shown} ticked={ticked} onShow={show} onTick={setTicked} />
            {hasNextPage && (
              <Button className="mt-2" onClick={() => void fetchNextPage()}>
                Show older reports
              </Button>
            )}
          </div>
          {shown && <ReportPanel key={shown} report={shown} />}
        </div>
      )}
      {opened === "enter" && (
        <EnterReturn
          onClose={() => setOpened(null)}
          onEntered={(key) => void navigate({ search: { box: "all", report: key } })}
        />
      )}
      {opened === "rewards" && (
        <RewardsSheet
          onClose={() => setOpened(null)}
          onShow={(each) => {
            setOpened(null);
            void navigate({ search: { box: "verified", report: each }, replace: true });
          }}
        />
      )}
      {opened === "page" && <PublicPageSheet onClose={() => setOpened(null)} />}
    </main>
  );
}

/** One decision on all that are ticked; those that may not be decided so stay, each with why. */
function DecideTicked({ ticked, onDone }: { ticked: ReadonlySet<string>; onDone: () => void }) {
  const { membership } = useHere();
  const decide = useDecide(membership.programme);
  const verify = () =>
    decide.mutate(
      { reports: [...ticked], state: "verified" },
      {
        onSuccess: ({ done, refused }) => {
          notify(
            [`${plural(done.length, "report")} verified.`, ...new Set(refused.map(({ why }) => `Not: ${why}`))].join(
              " ",
            ),
          );
          onDone();
        },
      },
    );
  return (
    <div className="flex items-center gap-3 pb-2">
      <Button look="ink" disabled={decide.isPending} onClick={verify}>
        Verify {plural(ticked.size, "report")}
      </Button>
      {decide.error && <ErrorMessage failure={decide.error} />}
    </div>
  );
}
