import "@fontsource-variable/atkinson-hyperlegible-next";
import "./app/theme.css";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Refused } from "./api/client";
import { router } from "./app/router";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      // what the service refuses it will refuse again; a lost connection may come back
      retry: (count, error) => !(error instanceof Refused) && count < 2,
    },
  },
});

const place = document.getElementById("root");
if (place)
  createRoot(place).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  );
