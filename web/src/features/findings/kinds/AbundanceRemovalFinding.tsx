import { useCallback } from "react";
import type { Schemas } from "@/api/client";
import { axis, Chart } from "@/ui/Chart";
import type { Palette } from "@/ui/palette";
import { formatInterval, plural } from "@/ui/words/format";
import { Asked } from "../Asked";
import { EstimateTable, Footing, Picture, Sentence } from "../FindingParts";
import type { FindingProps, FindingScreen } from "../finding-screens";

type Finding = Schemas["AbundanceRemovalFinding"];

/** How many fish, from passes at closed sites. */
function AbundanceRemovalFinding({ selection }: FindingProps) {
  return (
    <Asked<Finding> kind="abundance-removal" selection={selection} words="Counting passes...">
      {(finding, stale) => <Told finding={finding} selection={selection} stale={stale} />}
    </Asked>
  );
}

function Told({ finding, selection, stale }: Pick<FindingProps, "selection"> & { finding: Finding; stale: boolean }) {
  return (
    <>
      <Sentence finding={finding} stale={stale} />
      <div className="grid gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_36rem]">
        <Picture title="Catch by pass" note="a line for each site; a steep fall leaves few fish behind">
          <Falls finding={finding} />
        </Picture>
        <div className="flex flex-col gap-4">
          <EstimateTable
            caption="Over sites"
            what="Quantity"
            rows={finding.density ? [finding.density] : []}
            digits={1}
          />
          {finding.no_density && <p className="text-sm text-muted">No density over sites: {finding.no_density}</p>}
          <Sites finding={finding} />
        </div>
      </div>
      <ByEffort finding={finding} />
      <Footing finding={finding} selection={selection} kind="abundance-removal" />
    </>
  );
}

function Sites({ finding }: { finding: Finding }) {
  return (
    <table className="w-full text-left">
      <caption className="pb-1 text-left font-semibold">
        {plural(finding.sites.length, "site", "sites")}{" "}
        <span className="text-sm font-normal text-muted">with 95 % intervals</span>
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>Site, day</th>
          <th>Catches</th>
          <th className="text-right">Fish, chance may fall</th>
          <th className="pl-3 text-right">Fish, same chance</th>
        </tr>
      </thead>
      <tbody>
        {finding.sites.map(({ name, date, catches, distance_m, n, alike, least, most }) => (
          <tr key={`${name} ${date}`} className="border-t border-line align-top">
            <td className="py-1 pr-2">
              {name}
              <span className="block text-sm text-muted">
                {date}
                {distance_m !== null && `, ${distance_m.toFixed(0)} m`}
              </span>
            </td>
            <td className="whitespace-nowrap">{catches.join(", ")}</td>
            <td className="text-right whitespace-nowrap">
              {n && (
                <>
                  {formatInterval(n.value, n.lower, n.upper, 0)}
                  {n.upper === null && <span className="block text-sm text-muted">no upper limit</span>}
                </>
              )}
              {!n && least !== null && `${least.toFixed(0)} to ${most === null ? "any" : most.toFixed(0)}`}
            </td>
            <td className="text-right whitespace-nowrap">
              {alike ? formatInterval(alike.value, alike.lower, alike.upper, 0) : "no fall"}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Where passes were of unlike effort the fall of the catch alone says too much or too little. */
function ByEffort({ finding }: { finding: Finding }) {
  const there = finding.sites.filter(({ leslie, delury }) => leslie || delury);
  if (!there.length) return null;
  const told = (n: Schemas["Estimate"] | null) => (n ? formatInterval(n.value, n.lower, n.upper, 0) : "no fall");
  return (
    <table className="mt-4 w-full max-w-3xl text-left">
      <caption className="pb-1 text-left font-semibold">
        By catch and effort{" "}
        <span className="text-sm font-normal text-muted">with 95 % intervals; three passes give wide ones</span>
      </caption>
      <thead className="text-sm text-muted">
        <tr>
          <th>Site</th>
          <th>Catch in minutes of current, by pass</th>
          <th className="text-right">Fish, Leslie</th>
          <th className="pl-3 text-right">Fish, DeLury</th>
        </tr>
      </thead>
      <tbody>
        {there.map(({ name, date, catches, minutes, leslie, delury }) => (
          <tr key={`${name} ${date}`} className="border-t border-line">
            <td className="py-1 pr-2">{name}</td>
            <td>{catches.map((n, pass) => `${n} in ${minutes[pass]!.toFixed(0)}`).join(", ")}</td>
            <td className="text-right whitespace-nowrap">{told(leslie)}</td>
            <td className="pl-3 text-right whitespace-nowrap">{told(delury)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Falls({ finding }: { finding: Finding }) {
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: {
        formatter: ({ seriesIndex }: { seriesIndex: number }) => {
          const site = finding.sites[seriesIndex]!;
          return `${site.name}: ${site.catches.join(", ")}`;
        },
      },
      xAxis: axis("Pass", palette, {
        type: "category",
        data: Array.from(
          { length: Math.max(...finding.sites.map(({ catches }) => catches.length)) },
          (_, at) => at + 1,
        ),
      }),
      yAxis: axis("Fish caught", palette, { type: "value", min: 0 }),
      series: finding.sites.map(({ catches }) => ({
        type: "line",
        symbolSize: 7,
        lineStyle: { color: palette.data, width: 1.5 },
        itemStyle: { color: palette.data },
        data: catches,
      })),
    }),
    [finding],
  );
  return (
    <Chart
      label={`Catch by pass, ${plural(finding.sites.length, "site", "sites")}`}
      height={340}
      option={option}
      data={{
        columns: ["site", "pass", "caught"],
        rows: finding.sites.flatMap(({ name, catches }) => catches.map((n, at) => [name, at + 1, n])),
      }}
    />
  );
}

export const screen: FindingScreen = {
  kind: "abundance-removal",
  title: "Fish by passes",
  group: "Abundance",
  order: 3,
  Finding: AbundanceRemovalFinding,
};
