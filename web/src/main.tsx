import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { Refusal } from "./api/client";
import { App } from "./app/App";
import { applyTheme, storedTheme } from "./app/theme";
import "./styles.css";

applyTheme(storedTheme());
// days and hours are told by the clock on the wall here, on paper as well
document.cookie = `zone=${encodeURIComponent(Intl.DateTimeFormat().resolvedOptions().timeZone)}; path=/; SameSite=Lax`;

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      networkMode: "offlineFirst", // what was kept on a phone answers when nothing else does
      retry: (count, error) => !(error instanceof Refusal) && count < 2,
    },
  },
});

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
