/** What a survey can be planned to answer. */
export const QUESTIONS = [
  { value: "size", label: "Size and condition" },
  { value: "trend", label: "Trend in catch per effort" },
  { value: "marks", label: "Abundance by marks" },
  { value: "removal", label: "Abundance by removal" },
  { value: "movement", label: "Movement" },
];
