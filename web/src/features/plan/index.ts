export { PlanScreen } from "./PlanScreen";
export { SurveyScreen } from "./SurveyScreen";
