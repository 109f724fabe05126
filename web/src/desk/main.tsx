/** The staff application. */
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";

import { Failed } from "../client/client";
import { Global } from "../ui/theme";
import { router } from "./routes";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) =>
        error instanceof Failed && (error.status === 0 || error.status >= 500) && count < 3,
      refetchOnWindowFocus: true,
    },
  },
});

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Global />
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
