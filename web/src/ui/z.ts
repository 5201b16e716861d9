import { z } from "zod";

// without this zod probes for eval, which our content policy forbids and the browser reports
z.config({ jitless: true });

export { z };
