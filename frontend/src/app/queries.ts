/** What was read from the server: how long it is believed, and how often it is asked for again. */
import { QueryClient } from "@tanstack/vue-query";
import { ApiError } from "../api/client";
import { isForAll } from "../sync/policy";
import { keepFresh } from "./freshness";

export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      // A refusal will not change by asking again; a dead network may.
      retry: (count, error) => count < 3 && (!(error instanceof ApiError) || isForAll(error)),
      staleTime: 5_000,
      // What the server said is replaced, never changed: nobody has to watch its inside.
      shallow: true,
    },
  },
});

keepFresh(queries);
