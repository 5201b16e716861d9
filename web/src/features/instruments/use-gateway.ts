import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useState } from "react";
import { answer, api } from "@/api/client";
import type { InstrumentReading, InstrumentState } from "./readings";

/**
 * Where an outing's instruments are heard by the gateway; empty addresses where there are none. Simulated ones are heard in
 * practice, where nothing enters the record, and by the demo.
 */
export function useInstrumentsOf(outing: string | undefined, practice: boolean) {
  return useQuery({
    queryKey: ["instruments", outing, practice],
    queryFn: () =>
      answer(
        api.GET("/api/v1/outings/{outing_id}/instruments", {
          params: { path: { outing_id: outing! }, query: practice ? { practice } : {} },
        }),
      ),
    enabled: outing !== undefined,
    retry: false,
    staleTime: 12 * 3_600_000, // tickets are good for a day
  });
}

const NEW_TICKET_AFTER_MS = 5000;

/**
 * Listens to the gateway. `states` is null where there is none; `heard` is false while the gateway itself is not reached, and
 * the browser tries again by itself. `asked`: it has answered once, or has not been reached.
 */
export function useGateway(
  stream: string,
  onReading: (reading: InstrumentReading) => void,
): { states: InstrumentState[] | null; heard: boolean; asked: boolean } {
  const [states, setStates] = useState<InstrumentState[] | null>(null);
  const [heard, setHeard] = useState(false);
  const [asked, setAsked] = useState(false);
  const tell = useEffectEvent(onReading);
  const client = useQueryClient();
  useEffect(() => {
    if (!stream) return;
    const source = new EventSource(stream);
    source.addEventListener("states", ({ data }) => {
      setStates(JSON.parse(data) as InstrumentState[]);
      setHeard(true);
      setAsked(true);
    });
    source.addEventListener("reading", ({ data }) => tell(JSON.parse(data) as InstrumentReading));
    let timer: ReturnType<typeof setTimeout> | undefined;
    source.onerror = () => {
      setHeard(false);
      setAsked(true);
      // refused, not merely cut off: the ticket has ended, and another is asked for
      if (source.readyState === EventSource.CLOSED)
        timer = setTimeout(() => void client.invalidateQueries({ queryKey: ["instruments"] }), NEW_TICKET_AFTER_MS);
    };
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [stream, client]);
  return { states, heard, asked };
}
