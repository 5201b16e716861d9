export { type Layer, type PlannedSite, type Reach, useLayers, useReach } from "./queries";
export { ReachMap } from "./ReachMap";
export { ReachStrip } from "./ReachStrip";
export { WaterPart } from "./WaterPart";
