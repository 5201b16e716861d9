import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense } from "react";
import { answer, api } from "@/api/client";
import { plural } from "@/ui/words/format";

const Picture = lazy(async () => ({ default: (await import("./InductionPicture")).InductionPicture }));

interface Props {
  programme: string;
  agent: string;
  purpose: string;
}

/** What earlier baths say of this one, where there is a signal: induction time against strength, and what to try next. */
export function InductionLine({ programme, agent, purpose }: Props) {
  const { data } = useQuery({
    queryKey: ["inductions", programme, agent, purpose],
    queryFn: () =>
      answer(
        api.GET("/api/v1/programmes/{programme_id}/inductions", {
          params: {
            path: { programme_id: programme },
            query: { agent: agent as "tricaine", purpose: purpose as "surgery" },
          },
        }),
      ),
    retry: false,
    enabled: agent in { "clove-oil": 1, tricaine: 1 },
  });
  if (!data) return null;
  const { line, points, goal_s } = data;
  const up = points.filter(({ lay }) => !lay).length;
  return (
    <section aria-label="Earlier baths" className="border-t border-line pt-2">
      <h3 className="font-semibold">
        Earlier baths: {plural(points.length - up, "fish", "fish")} that lost equilibrium
        {up > 0 && `, ${up} still upright when last seen (open triangles)`}
      </h3>
      {!line && <p className="text-muted">{data.problem}</p>}
      {line && line.suggest_mg_l === null && (
        <p>No suggestion: in these fish the strength is not seen to matter (95 %).</p>
      )}
      {line?.suggest_mg_l != null && (
        <p>
          Half of the fish are expected to lose equilibrium within {Math.round(goal_s / 60)} min at{" "}
          <strong>{line.suggest_mg_l.toFixed(0)} mg/L</strong> ({line.suggest_lower!.toFixed(0)} to{" "}
          {line.suggest_upper!.toFixed(0)} by the line's 95 % interval, inside the protocol's range). The lowest that
          holds the fish still.
        </p>
      )}
      {points.length > 2 && (
        <Suspense fallback={null}>
          <Picture data={data} />
        </Suspense>
      )}
    </section>
  );
}
