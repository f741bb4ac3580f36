import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import "@fontsource-variable/bricolage-grotesque";
import "@fontsource-variable/figtree";
import CssBaseline from "@mui/material/CssBaseline";
import { ThemeProvider } from "@mui/material/styles";
import { notifyManager, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import type { CallFailed } from "./api/client";
import { App } from "./app/App";
import { theme } from "./ui/theme";
import { speakAs } from "./ui/dates";

speakAs(navigator.languages);
// The page may only write styles that carry the nonce of the answer that brought it.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
const styles = createCache({ key: "kp", nonce });
// What a press changes is drawn with the press: a box that is ticked isn't seen unticked for a moment first.
notifyManager.setScheduler(queueMicrotask);
const queries = new QueryClient({
  defaultOptions: {
    // The server is this machine: being offline has nothing to do with it. What it refuses it would refuse again.
    queries: {
      retry: (failed, error) => failed < 1 && (error as Partial<CallFailed>).mayPass !== false,
      refetchOnWindowFocus: false,
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <CacheProvider value={styles}>
      <ThemeProvider theme={theme} defaultMode="system">
        <CssBaseline enableColorScheme />
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </QueryClientProvider>
      </ThemeProvider>
    </CacheProvider>
  </StrictMode>,
);
