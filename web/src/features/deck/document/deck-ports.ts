import { answer, api } from "@/api/client";
import { devicePorts } from "@/offline/device-ports";
import type { DocumentPorts, Since } from "@/offline/document-store";
import { type Caller, lastCaller, rememberCaller } from "../calling/callers";
import { type Deck, scope } from "../scope";

/** Everything outside that an outing on this tablet touches. */
export interface DeckPorts extends DocumentPorts<Deck> {
  /** Who has taken over this tablet from its own person in an outing: kept for as long as they are signed in. */
  caller: {
    last: (outing: string, own: Caller) => Promise<Caller | null>;
    remember: (outing: string, own: Caller, caller: Caller | null) => Promise<void>;
  };
}

/** What others did to an outing; where it goes by another protocol now, all of it is read anew. */
async function sinceMark(outing_id: string, last: Deck): Promise<Since<Deck>> {
  const params = { path: { outing_id }, query: { mark: last.mark } };
  const told = await answer(api.GET("/api/v1/outings/{outing_id}/live", { params }));
  const document = !told.live
    ? null
    : told.protocol === last.protocol.number
      ? { ...last, ...told.live, mark: told.mark }
      : await scope.load(outing_id);
  return { again_s: told.again_s, document };
}

export const realPorts: DeckPorts = {
  ...devicePorts,
  caller: { last: lastCaller, remember: rememberCaller },
  load: scope.load,
  since: sinceMark,
};
