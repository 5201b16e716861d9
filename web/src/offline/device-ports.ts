import { clock } from "./clock";
import type { DocumentPorts } from "./document-store";
import { outbox } from "./outbox";
import { sender } from "./sender";
import { tabs } from "./tabs";

/** What every document on this device touches, whatever its scope. */
export const devicePorts: Omit<DocumentPorts<never>, "load" | "since"> = {
  outbox,
  sender,
  clock: {
    now: () => new Date(),
    get offset() {
      return clock.offset;
    },
  },
  channel: tabs,
};
