/** What tests put into the browser's database and find there. */
import { database } from "./database";
import type { Operation } from "./operation";

export async function forgetAll(): Promise<void> {
  const db = await database();
  for (const store of ["operations", "settled", "documents"] as const) await db.clear(store);
}

export async function enqueue(...operations: Operation[]): Promise<void> {
  const db = await database();
  for (const each of operations) await db.add("operations", each);
}
