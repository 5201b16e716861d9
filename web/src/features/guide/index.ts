export { GuideScreen } from "./GuideScreen";
export { MethodScreen } from "./MethodScreen";
