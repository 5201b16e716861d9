import { answer, api } from "@/api/client";
import type { Schemas } from "@/api/schemas";
import type { OperationKind, Scope } from "@/offline/operation";
import type { ScopeKind } from "@/offline/scopes";
import { upgradeDeck, upgradeEntry } from "./document/upgrades";
import { fetchOutings } from "./outing/outings";

/** The document of an outing. */
export type Deck = Schemas["Deck"];

/** A kind of entry of an outing. */
export type DeckOperation<Row = Record<string, unknown>, Shown = unknown> = OperationKind<Deck, Row, Shown>;

export const outingScope = (id: string): Scope => ({ kind: "outing", id });

export const scope: ScopeKind<Deck> = {
  kind: "outing",
  programme: ({ outing }) => outing.programme,
  load: (outing_id) => answer(api.GET("/api/v1/outings/{outing_id}/deck", { params: { path: { outing_id } } })),
  upgrade: upgradeDeck,
  upgradeEntry,
  names: fetchOutings,
  unnamed: "An outing that this device does not list",
  link: (outing) => ({ to: "/deck/$outing", params: { outing } }),
};
