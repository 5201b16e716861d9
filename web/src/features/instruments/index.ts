/** Instruments beside the Deck: what they say, by the gateway and by a cable of one's own. */
export { InstrumentStates } from "./InstrumentStates";
export { OwnCables } from "./OwnCables";
export {
  asCalled,
  type InstrumentReading,
  type InstrumentState,
  placeWords,
  readingWords,
  waitingAfter,
  waitingBeside,
} from "./readings";
export { useGateway, useInstrumentsOf } from "./use-gateway";
export { useSerialDevices } from "./use-serial-devices";
