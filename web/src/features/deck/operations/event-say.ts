import { withDetails } from "../document/upgrades";
import type { DeckOperation } from "../scope";
import record from "./event-record";

/** An event as releases before 0.11 recorded it: such entries may wait on a tablet still, and are sent as they stand. */
const kind: DeckOperation = {
  kind: "event.say",
  apply: (deck, operation) => record.apply(deck, { ...operation, row: withDetails(operation.row) } as never),
  describe: (operation) => record.describe(operation as never),
  subject: (operation) => record.subject(operation as never),
};
export default kind;
