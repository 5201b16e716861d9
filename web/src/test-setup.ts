import "fake-indexeddb/auto";

// jsdom has no screen to ask about: it is one with a mouse
if (typeof window !== "undefined") window.matchMedia ??= () => ({ matches: false }) as MediaQueryList;
