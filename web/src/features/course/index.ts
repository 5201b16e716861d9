export { CourseScreen } from "./CourseScreen";
export { type CoursePassed, courseWords, useCourse } from "./queries";
