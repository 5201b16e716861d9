import type { LinkProps } from "@tanstack/react-router";
import type { Operation, Scope } from "./operation";

/** One kind of scope: where its documents come from, and how those that an earlier version of this application kept are read. */
export interface ScopeKind<Document = unknown> {
  kind: string;
  /** The programme that what is done belongs to. */
  programme: (document: Document) => string;
  /** The document as the server has it. */
  load: (id: string) => Promise<Document>;
  /** A document as it is kept now, from one that the version `from` of the browser's database kept. */
  upgrade: (document: never, from: number) => Document;
  /** The same for an entry that waits. What is sent stays as it was made: its receipt may be on the server already. */
  upgradeEntry: (operation: Operation, from: number) => Operation;
  /** What those of a programme are called, for a list of what waits. */
  names: (programme: string) => Promise<readonly { id: string; name: string }[]>;
  /** What one is called that is not among those. */
  unnamed: string;
  /** Where its page is. */
  link: (id: string) => LinkProps;
}

/** Each feature declares its own, in a file `scope.ts` or beside the first kind of entry that needs it. */
const modules = import.meta.glob<{ scope?: ScopeKind }>(
  ["../features/*/scope.ts", "../features/*/operations/*.ts", "!**/*.test.ts"],
  { eager: true },
);
/** Looked up when asked and not before: a scope's own module may be what is being read when this one is. */
export function scopeKind(kind: string): ScopeKind | undefined {
  return Object.values(modules).find(({ scope }) => scope?.kind === kind)?.scope;
}

export const sameScope = (a: Scope, b: Scope): boolean => a.kind === b.kind && a.id === b.id;
