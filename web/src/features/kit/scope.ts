import { answer, api, type Schemas } from "@/api/client";
import type { OperationKind, Scope } from "@/offline/operation";
import type { ScopeKind } from "@/offline/scopes";

/** The document of a volunteer's kit: tags that are with them, species, their cards. */
export type Kit = Omit<Schemas["TaggingKit"], "cards"> & { cards: Card[] };
/** A card; `waiting` are its photos that are on this device still, base64 where they were carried here. */
export type Card = Schemas["Card"] & { waiting?: { id: string; jpeg?: Blob | string }[] };
export type KitOperation<Row = Record<string, unknown>, Shown = unknown> = OperationKind<Kit, Row, Shown>;

export const kitScope = (id: string): Scope => ({ kind: "kit", id });

export const scope: ScopeKind<Kit> = {
  kind: "kit",
  programme: ({ programme }) => programme,
  load: (kit_id) => answer(api.GET("/api/v1/kits/{kit_id}", { params: { path: { kit_id } } })),
  upgrade: (document) => document,
  upgradeEntry: (operation) => operation,
  names: async () => [],
  unnamed: "My tagging kit",
  link: () => ({ to: "/kit" }),
};
