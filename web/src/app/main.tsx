import { MutationCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { ApiError } from "@/api/client";
import { startWithLast } from "@/session";
import { newVersion } from "./new-version";
import { router } from "./router";
import "./styles.css";

const client = new QueryClient({
  // whatever was changed on one page is asked for anew by the next one; what this page shows is said where it is changed
  mutationCache: new MutationCache({ onSuccess: () => void client.invalidateQueries({ refetchType: "none" }) }),
  defaultOptions: {
    queries: {
      networkMode: "always", // the Deck answers from what it kept when there is no signal
      retry: (failures, failure) => !(failure instanceof ApiError) && failures < 2,
      staleTime: 10_000,
    },
  },
});

// a browser without one works as long as there is a network
newVersion.watch().catch((failure: unknown) => console.error("no service worker", failure));

await startWithLast(client);
createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
