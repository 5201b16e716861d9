/** What several stages need of the programme: its protocol, its plan, what waits today, and what is decided of it once. */
export { newProgramme, ProgrammeFields, type ProgrammeValues } from "./ProgrammeFields";
export { usePeople, usePlan, useProtocol } from "./queries";
export { ROLES } from "./roles";
export {
  NOTHING_KNOWN,
  type SpeciesValues,
  useDescribeSpecies,
  useSetSpecies,
  useSpecies,
  useSpeciesValues,
} from "./species";
export { useToday } from "./today";
