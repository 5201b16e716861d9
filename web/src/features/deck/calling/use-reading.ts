import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { detailsByKind } from "../handling/events";
import { type Doubts, judge, shrank } from "../rules/believability";
import { amendedCall, readCall, repeatedLine } from "../rules/call-line";
import { marksAfter, markTable } from "../rules/marks";
import { ownLength } from "../rules/own-length";
import { permitQuestion, permitsAgainst, permitsForTag } from "../rules/permits";
import { protocolRows } from "../rules/protocol";
import { type TagProposal, tagProposal, tagQuestion, unfitForTag } from "../rules/tagging";
import type { Deck } from "../scope";

type Capture = Schemas["Capture"];

const NO_DOUBTS: Doubts = { questions: [], repairs: [] };

/** What the line says: the fish it is of, its marks, and whether it corrects one that was called before. */
export function useReading(
  deck: Deck,
  line: string,
  last: Capture | undefined,
  chosen: Capture | null,
  standing: string | null,
) {
  const marks = useMemo(
    () => marksAfter(deck.marks, deck.captures, deck.outing.id, new Date().toISOString()),
    [deck.marks, deck.captures, deck.outing.id],
  );
  const settings = useMemo(
    () => ({
      species: deck.species,
      units: deck.units,
      lengthUnit: deck.outing.length_unit ?? "mm",
      massUnit: deck.outing.mass_unit ?? "g",
      takenTo: protocolRows({ protocol: deck.protocol }, "taken_to").map(({ code }) => String(code)),
      stock: marks.stock,
    }),
    [deck.species, deck.units, deck.outing, deck.protocol, marks.stock],
  );
  const amended = useMemo(
    () => (last && !chosen ? amendedCall(line, last, settings) : null),
    [line, last, chosen, settings],
  );
  /** The fish that is called again: the one that was chosen, or the last one where the line says "last was". */
  const correcting = chosen ?? (amended ? (last ?? null) : null);
  const read = useMemo(
    () =>
      amended ??
      readCall(
        (last && !chosen && repeatedLine(line, last, settings)) || line,
        settings,
        correcting?.species ?? standing,
      ),
    [amended, line, settings, standing, correcting, last, chosen],
  );
  const table = useMemo(() => markTable(marks), [marks]);
  const recognised = useMemo(() => read.marks.map(table.recognise), [read.marks, table]);
  const met = recognised.find((each) => each.meaning === "known")?.fish;
  // a fish met again is of its own species, unless another was called
  const call = useMemo(() => (met && !read.speciesCalled ? { ...read, species: met.species } : read), [met, read]);
  const species = deck.species.find(({ code }) => code === call.species);
  return { marks, table, settings, amended, correcting, recognised, met, call, species };
}

export type Reading = ReturnType<typeof useReading>;

/** What is to be asked of the fish that the line says, and which permits it would use. */
export function useDoubts(
  deck: Deck,
  last: Capture | undefined,
  { call, species, recognised, met, correcting }: Reading,
) {
  const against = useMemo(() => {
    if (call.empty) return [];
    if (!correcting) return permitsAgainst(deck, call);
    return call.marks.length ? permitsForTag(deck, correcting) : [];
  }, [deck, call, correcting]);
  /** The length that limits and categories are held against: a fork length is never taken for a total length. */
  const own = useMemo(
    () => (call.length && species ? ownLength(call.length.value, call.lengthType, species) : null),
    [call, species],
  );
  const proposal = useMemo((): TagProposal | null => {
    if (!own || !species || met) return null;
    const before = correcting ? detailsByKind(deck.events, correcting.id) : {};
    const { fate = "", strength = null } = call.release ?? {};
    return tagProposal(deck, {
      species: species.code,
      mm: own.mm,
      run: correcting?.run ?? deck.runs.findLast(({ ended_at }) => ended_at === null)?.id,
      kind: recognised.find(({ meaning }) => meaning === "stock")?.kind,
      unfit: unfitForTag(before, strength, fate ?? ""),
    });
  }, [own, species, met, correcting, deck, call.release, recognised]);
  const doubts = useMemo(() => {
    if (!species) return NO_DOUBTS;
    const fish = { length: call.length?.value ?? null, mass: call.mass?.value ?? null };
    const before = last && !correcting ? { length: last.length_mm, mass: last.mass_g } : null;
    const { questions, repairs } = judge(species, fish, deck.slips, before);
    const untagged = tagQuestion(proposal, recognised);
    const then = met?.last?.length_mm;
    // measured, and in the length type of then; a correction is of the fish as it was met, not of one met again
    const alike = call.length?.estimated === false && (!call.lengthType || call.lengthType === species.length_type);
    const shorter = then != null && alike && !correcting ? shrank(then, call.length!.value) : null;
    return {
      questions: [...questions, ...[untagged, shorter, permitQuestion(against)].filter((each) => each !== null)],
      repairs,
    };
  }, [call, species, deck, proposal, recognised, met, last, correcting, against]);
  return { against, own, proposal, doubts };
}
