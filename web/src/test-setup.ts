import { vi } from "vitest";
import "fake-indexeddb/auto";

// jsdom has no screen to ask about: it is one with a mouse
if (typeof window !== "undefined") window.matchMedia ??= () => ({ matches: false }) as MediaQueryList;

// a second is not enough where the machine is busy with the other workers
const { waitFor } = vi;
vi.waitFor = (what, options = 10_000) => waitFor(what, options);
