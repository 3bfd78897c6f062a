import { QueryClient } from "@tanstack/react-query";
import { Refused } from "../api/client";
import { nameOf } from "./written";

export const client = new QueryClient({
  defaultOptions: {
    queries: {
      queryKeyHashFn: nameOf,
      staleTime: 30_000,
      gcTime: 12 * 3600 * 1000, // a day on the bank
      // what the service refuses it will refuse again; a lost connection may come back
      retry: (count, error) => !(error instanceof Refused) && count < 2,
    },
  },
});
