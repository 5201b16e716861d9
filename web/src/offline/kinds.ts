import type { Operation, OperationKind } from "./operation";

/** Every kind of entry: each feature declares its own, one a file, in its folder `operations`, where tests may lie too. */
const modules = import.meta.glob<{ default?: OperationKind<unknown> }>(
  ["../features/*/operations/*.ts", "!**/*.test.ts"],
  { eager: true },
);
let kinds: Map<string, OperationKind<unknown>> | undefined;

/** Got together when first asked and not before: a kind's own module may be what is being read when this one is. */
function kindOf(name: string): OperationKind<unknown> | undefined {
  kinds ??= new Map(Object.values(modules).flatMap(({ default: kind }) => (kind ? [[kind.kind, kind] as const] : [])));
  return kinds.get(name);
}

/** A scope's document after an operation; one whose kind is not known any more shows nothing, and is still sent. */
export function applyOperation<Document>(document: Document, operation: Operation): Document {
  return (kindOf(operation.kind)?.apply(document, operation as never) as Document | undefined) ?? document;
}

/** An operation in a few words. */
export function describeOperation(operation: Operation): string {
  return kindOf(operation.kind)?.describe(operation as never) ?? operation.kind;
}

/** Key of the row that an operation is about. */
export function subjectOf(operation: Operation): string {
  return kindOf(operation.kind)?.subject(operation) ?? operation.id;
}
