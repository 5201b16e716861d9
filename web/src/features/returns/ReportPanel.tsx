import { useState } from "react";
import { FishLife, FishSheet, useFishStory, WhoseMarks } from "@/features/records";
import { useHere } from "@/session";
import { ErrorMessage } from "@/ui/Message";
import { formatDay } from "@/ui/words/format";
import { markText } from "@/ui/words/mark-text";
import { KINDS } from "@/ui/words/tag-kinds";
import { CorrectReturn } from "./CorrectReturn";
import { Decide } from "./Decide";
import { FinderPart } from "./FinderPart";
import { HistoryPart } from "./HistoryPart";
import { MatchPart } from "./MatchPart";
import { OthersPart } from "./OthersPart";
import { PlacePart } from "./PlacePart";
import { useReturn, type WholeReport } from "./queries";
import { RewardPart } from "./RewardPart";
import { CHANNELS, dayText, FISH_FATES, MEANS, positionText, STATES, TAG_FATES } from "./words";

/** One report with all that helps to decide it. */
export function ReportPanel({ report }: { report: string }) {
  const { data, error } = useReturn(report);
  const { may } = useHere();
  const [correcting, setCorrecting] = useState(false);
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="text-muted">Loading...</p>;
  const title = data.tag ? `${KINDS[data.tag.kind]} ${markText(data.tag)}` : data.number_text || "Photo only";
  return (
    <article aria-label={`Report of ${title}`} className="border-l border-line pl-4 max-lg:border-l-0 max-lg:pl-0">
      <h2 className="flex flex-wrap items-baseline gap-x-3 text-lg font-semibold">
        <span className="tabular-nums">{title}</span>
        <span className="text-base font-normal">
          {data.fish_species_name && `${data.fish_species_name}, `}
          {STATES[data.state].toLowerCase()}
          {data.decided_at && ` on ${formatDay(data.decided_at)}`}
        </span>
      </h2>
      {data.reason && <p>Reason: {data.reason}</p>}
      <Doubts report={data} />
      {may("verify_returns") && <Decide report={data} />}
      <WhoseMarks marks={data.whose} />
      <MatchPart report={data} />
      <div className="grid gap-x-6 md:grid-cols-2">
        <Said report={data} onCorrect={may("enter_return") ? () => setCorrecting(true) : undefined} />
        <div>
          <PlacePart report={data} />
          {data.photo && <Photo report={data} />}
          <FinderPart report={data} />
          <RewardPart report={data} />
        </div>
      </div>
      <OthersPart report={data} />
      {data.fish && <Life fish={data.fish} />}
      <HistoryPart history={data.history} />
      {correcting && <CorrectReturn report={data} onClose={() => setCorrecting(false)} />}
    </article>
  );
}

function Doubts({ report }: { report: WholeReport }) {
  if (!report.fish) return null;
  if (!report.doubts.length)
    return <p className="text-muted">Nothing speaks against it: species, days, place and growth fit.</p>;
  return (
    <ul className="mt-1" aria-label="Doubts">
      {report.doubts.map(({ code, text }) => (
        <li key={code} className="text-signal">
          <span aria-hidden="true">! </span>
          {text}
        </li>
      ))}
    </ul>
  );
}

function Said({ report, onCorrect }: { report: WholeReport; onCorrect?: () => void }) {
  const rows: [string, string][] = [
    ["Number as read", report.number_text || "not given"],
    ["Species as reported", report.species_name || "not known"],
    ["Found", dayText(report)],
    ["Place", report.place_text || (report.lat === null ? "not given" : "on the map")],
    ["Position", positionText(report) || "not given"],
    [
      "Length",
      report.length_text ? `${report.length_text}${report.length_estimated ? ", estimated" : ""}` : "not given",
    ],
    ["Weight", report.mass_text || "not given"],
    ["Caught by", report.means ? MEANS[report.means] : "not given"],
    ["Fish", report.fish_fate ? FISH_FATES[report.fish_fate] : "not given"],
    ["Tag", report.tag_fate ? TAG_FATES[report.tag_fate] : "not given"],
    ["Remarks", report.remarks || "none"],
    [
      "Received",
      `${formatDay(report.received_at)}, ${CHANNELS[report.channel].toLowerCase()}${report.recorder ? `, by ${report.recorder}` : ""}`,
    ],
    ["Story shown to finder", report.told ? "at once" : "not yet"],
  ];
  return (
    <section aria-label="Report">
      <div className="mt-3 flex items-center gap-3">
        <h3 className="font-semibold">Report</h3>
        {onCorrect && (
          <button
            type="button"
            className="min-h-[44px] cursor-pointer text-sm underline underline-offset-4"
            onClick={onCorrect}
          >
            Correct
          </button>
        )}
      </div>
      <dl className="grid grid-cols-[10rem_1fr] gap-x-3">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="border-t border-line py-1 text-sm text-muted">{name}</dt>
            <dd className="border-t border-line py-1 wrap-anywhere">{value}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Photo({ report }: { report: WholeReport }) {
  const address = `/api/v1/returns/${report.id}/photo.jpg`;
  return (
    <a href={address} target="_blank" rel="noreferrer">
      <img src={address} alt="Sent with the report" className="mt-3 max-h-72 border border-line" />
    </a>
  );
}

function Life({ fish }: { fish: string }) {
  const { data: story } = useFishStory(fish);
  const [capture, setCapture] = useState<string | null>(null);
  if (!story) return null;
  return (
    <section aria-label="The fish" className="mt-4">
      <h3 className="font-semibold">The fish so far</h3>
      <FishLife story={story} onOpen={setCapture} />
      {capture && <FishSheet capture={capture} onClose={() => setCapture(null)} />}
    </section>
  );
}
