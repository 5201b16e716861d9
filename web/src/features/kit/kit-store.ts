import { v7 as uuidv7 } from "uuid";
import { devicePorts } from "@/offline/device-ports";
import { type DocumentPorts, DocumentStore, type Opened, openScope, type Who } from "@/offline/document-store";
import { type Kit, kitScope, scope } from "./scope";

const realPorts: DocumentPorts<Kit> = { ...devicePorts, load: scope.load };

/** A volunteer's kit on their phone. */
export class KitStore extends DocumentStore<Kit> {
  private constructor(kit: string, who: Who, ports: DocumentPorts<Kit>, opened: Opened<Kit>) {
    super(kitScope(kit), scope, who, ports, opened, {});
  }

  /** The kit as this phone last knew it, at once, with the server asked beside it. */
  static async open(kit: string, who: Who, ports: DocumentPorts<Kit> = realPorts): Promise<KitStore> {
    return new KitStore(kit, who, ports, await openScope(kitScope(kit), ports));
  }

  /** Does something; shown at once, sent when possible. Gives the key of what it made. */
  add(kind: string, row: object, shown?: unknown): string {
    const id = uuidv7();
    // what cannot be written to the disk stays in sight as unsaved: the outbox says so
    void this.put({ id, kind, row: row as Record<string, unknown>, shown }).catch(() => undefined);
    return id;
  }

  /** Does something large, such as keeping a photo: sent by itself, after everything else. Rejects where there is no room for it. */
  addLarge(kind: string, row: object): Promise<void> {
    return this.put({ kind, row: row as Record<string, unknown>, heavy: true });
  }
}
