export { TimeMap } from "./TimeMap";
