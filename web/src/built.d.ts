/** The day on which these screens were built, ISO (vite.config.ts). */
declare const __BUILT__: string;
