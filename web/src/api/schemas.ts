import type { components } from "./schema.gen";

/** Shapes of what goes over the API, by their names in its schema. */
export type Schemas = components["schemas"];
