export { Permits } from "./Permits";
