export { GuideScreen } from "./GuideScreen";
