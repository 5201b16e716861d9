import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { useOwnLine } from "../queries";
import { Figures, Part } from "./Figures";
import type { PartProps, Values } from "./values";

/** Its length-weight relationship, published or fitted to the programme's own fish. */
export function LinePart({ code, values, set, wrong, field }: PartProps & { code: string }) {
  const { membership } = useHere();
  const fit = useOwnLine(membership.programme, code);
  return (
    <Part title="Length-mass line" open={field?.startsWith("line")}>
      <p className="text-sm text-muted">
        log10 mass (g) = log10 a + b · log10 length (mm). From 30 weighed fish on, the Deck judges a mass by the line of
        this programme's own fish.
      </p>
      <Figures
        part={values.line}
        names={{ log10_a: "log10 a", b: "b", sd: "residual SD of log10 mass" }}
        at="line"
        wrong={wrong}
        onChange={(line) => set({ line })}
      />
      {code && (
        <Button
          className="mt-2"
          onClick={() => fit.mutate(undefined, { onSuccess: (line) => set({ line: line as Values["line"] }) })}
        >
          Fit it to our own fish
        </Button>
      )}
      {fit.error && <ErrorMessage failure={fit.error} />}
    </Part>
  );
}
