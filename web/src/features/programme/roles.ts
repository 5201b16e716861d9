import type { Schemas } from "@/api/client";

/** What somebody does, and what to try as them in five minutes. */
export const ROLES: Record<Schemas["RoleEnum"], { does: string; tries: string }> = {
  lead: {
    does: "answers for the programme, its people and permits",
    tries: "Plan: open the spring survey, and look what still stands against going out.",
  },
  biologist: {
    does: "designs the survey and draws the findings",
    tries: "Findings: condition of the lower river's walleye, by year; then open a fish from its point.",
  },
  crew: {
    does: "measures, records and releases on the deck",
    tries: "Today: Work the deck, and type 437 890 f and Enter. Then 43 890: it asks.",
  },
  volunteer: {
    does: "tags fish from a small boat",
    tries: "Deck: open an outing of your own and call a fish; or Help, Practice: nothing of it enters the record.",
  },
  viewer: {
    does: "reads findings and reports",
    tries: "Findings: the sentence first, then what it rests on.",
  },
};
