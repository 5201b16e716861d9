export { MapFrame } from "./MapFrame";
export { PlaceMap } from "./PlaceMap";
export {
  type Layer,
  type PlannedSite,
  type Reach,
  useAddSite,
  useCorrectGround,
  useLayers,
  useNewWater,
  useReach,
  useSites,
  useWaters,
} from "./queries";
export { Layers, ReachMap } from "./ReachMap";
export { ReachStrip } from "./ReachStrip";
export { roundLength } from "./reach-geometry";
export { type Series, useSeries, useSeriesStep } from "./series";
export { WaterPart } from "./WaterPart";
