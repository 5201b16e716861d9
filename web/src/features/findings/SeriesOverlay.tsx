import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { answer, api, type Schemas } from "@/api/client";
import { rowsQuery, type Selection } from "@/features/selection";
import { useSeries } from "@/features/waters";
import { useHere } from "@/session";
import { axis, Chart } from "@/ui/Chart";
import { Choice } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import type { Palette } from "@/ui/palette";
import { formatDay, whole } from "@/ui/words/format";

/** A series from elsewhere beside the fish that are selected: flow, temperature, anglers counted. */
export function SeriesOverlay({ selection }: { selection: Selection }) {
  const { membership } = useHere();
  const { data: series } = useSeries(membership.programme);
  const [chosen, setChosen] = useState("");
  if (!series?.length) return null;
  return (
    <details className="mt-6 border-t border-line pt-2">
      <summary className="min-h-[44px] cursor-pointer py-2 font-semibold">Compare with a series</summary>
      <div className="max-w-sm">
        <Choice label="Series" value={chosen} onChange={(event) => setChosen(event.target.value)}>
          <option value="">Choose...</option>
          {series.map(({ id, water_name, name, unit }) => (
            <option key={id} value={id}>
              {water_name}: {name}
              {unit && ` (${unit})`}
            </option>
          ))}
        </Choice>
      </div>
      {chosen && <OneSeries id={chosen} selection={selection} />}
    </details>
  );
}

function OneSeries({ id, selection }: { id: string; selection: Selection }) {
  const query = rowsQuery(selection);
  const { data, error } = useQuery({
    queryKey: ["series-overlay", id, query],
    queryFn: () =>
      answer(
        api.GET("/api/v1/series/{series_id}/overlay", {
          params: { path: { series_id: id }, query: Object.fromEntries(new URLSearchParams()) },
          querySerializer: () => query,
        }),
      ),
  });
  if (error) return <ErrorMessage failure={error} />;
  if (!data) return <p className="py-2 text-muted">Reading the series...</p>;
  return <Drawn overlay={data} />;
}

function Drawn({ overlay }: { overlay: Schemas["SeriesOverlay"] }) {
  const { series, days, outings } = overlay;
  const title = `${series.name}${series.unit ? ` (${series.unit})` : ""}, mean of the day`;
  const option = useCallback(
    (palette: Palette) => ({
      tooltip: { trigger: "axis" },
      xAxis: axis("Day", palette, { type: "time" }),
      yAxis: axis(title, palette, { type: "value", nameGap: 48, scale: true }),
      series: [
        {
          type: "line",
          name: series.name,
          showSymbol: false,
          lineStyle: { color: palette.data, width: 1.5 },
          itemStyle: { color: palette.data },
          data: days.map(({ day, mean }) => [day, mean]),
        },
        {
          type: "scatter",
          name: "on an outing",
          symbol: "diamond",
          symbolSize: 11,
          itemStyle: { color: palette.signal },
          data: outings.flatMap(({ date, mean }) => (mean === null ? [] : [[date, mean]])),
        },
      ],
    }),
    [days, outings, series.name, title],
  );
  return (
    <div className="mt-2">
      {days.length > 0 ? (
        <Chart
          label={`${title}, with the days of the outings marked`}
          height={230}
          option={option}
          data={{
            columns: ["outing", "day", "fish", title],
            rows: outings.map(({ name, date, fish, mean }) => [name, date, fish, mean]),
          }}
        />
      ) : (
        <p className="text-signal">! The series has no reading in the time of these outings.</p>
      )}
      <table className="mt-2 text-left text-sm">
        <thead className="border-b border-ink">
          <tr>
            <th className="py-1 pr-5">Outing</th>
            <th className="pr-5">Day</th>
            <th className="pr-5 text-right">Fish</th>
            <th className="text-right">{title}</th>
          </tr>
        </thead>
        <tbody>
          {outings.map(({ name, date, fish, mean }) => (
            <tr key={name + date} className="border-b border-line">
              <td className="py-1 pr-5">{name}</td>
              <td className="pr-5">{formatDay(date)}</td>
              <td className="pr-5 text-right">{whole(fish)}</td>
              <td className="text-right">{mean === null ? "no reading" : mean.toPrecision(4)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-muted">
        {series.source}. It stands beside the fish and explains nothing by itself: what rises and falls together need
        not belong together.
      </p>
    </div>
  );
}
