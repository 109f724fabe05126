/** The staff application. */
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { I18nProvider } from "react-aria-components";
import { createRoot } from "react-dom/client";

import { ApiError } from "../client/client";
import "../ui/fonts.css";
import { Global } from "../ui/theme";
import { me } from "./data";
import { tellIdleness } from "./idle";
import { routerOf } from "./routes";

/** A session that has ended shows in any answer: ask who is signed in, which leads to signing in. */
const cache = new QueryCache({
  onError: (error, query) => {
    const ended = error instanceof ApiError && error.status === 401;
    const own = query.queryKey[0] === me.queryKey[0] || query.meta?.["staysSignedIn"];
    if (ended && !own) void queries.resetQueries(me);
  },
});

const queries: QueryClient = new QueryClient({
  queryCache: cache,
  defaultOptions: {
    queries: {
      retry: (count, error) =>
        error instanceof ApiError && (error.status === 0 || error.status >= 500) && count < 3,
      refetchOnWindowFocus: true,
    },
  },
});

tellIdleness();

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Global />
      <I18nProvider locale="en-US">
        <QueryClientProvider client={queries}>
          <RouterProvider router={routerOf(queries)} />
        </QueryClientProvider>
      </I18nProvider>
    </StrictMode>,
  );
}
