import { QueryClient, QueryClientProvider, notifyManager } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { Problem } from "@/api/client";
import { takeNonce } from "@/app/nonce";
import { router } from "@/app/router";
import "@/styles/index.css";

takeNonce();

// Screens hear of what was read or saved at once, not a timer later: what waited is gone by then.
notifyManager.setScheduler(queueMicrotask);

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // A word within two seconds; the stream has it read again once the server is back.
      retry: (count, error) => error instanceof Problem && error.passing && count < 2,
      retryDelay: (count) => 300 * 2 ** count,
      networkMode: "always", // the browser's word for "online" says little; who asks is answered, or told that nobody does
      refetchOnWindowFocus: false, // the stream tells what is new
    },
  },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
