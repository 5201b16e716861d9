export { PlanScreen } from "./PlanScreen";
export { SurveyScreen } from "./survey/SurveyScreen";
