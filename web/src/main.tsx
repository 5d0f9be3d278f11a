import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/bricolage-grotesque/wght.css";
import "./styles.css";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { onWrites, Problem } from "./api/client";
import { App } from "./app/App";
import { startTheme } from "./parts/theme";
import { sender } from "./session/sender";
import { value } from "./sync/database";
import { registerWorker } from "./sync/serviceWorker";

setNonce(document.querySelector<HTMLMetaElement>('meta[name="style-nonce"]')?.content ?? "");
startTheme();
registerWorker();
sender.start();
onWrites(async () => !(await value("ending")));

const queries = new QueryClient({
  // A session that was ended from elsewhere is found out by whatever is asked next.
  queryCache: new QueryCache({
    onError: (error) => {
      if (error instanceof Problem && error.status === 401) void queries.invalidateQueries({ queryKey: ["session"] });
    },
  }),
  defaultOptions: {
    queries: {
      retry: (count, error) => error instanceof Problem && error.isAway && count < 20,
      retryDelay: 1500,
      networkMode: "always",
    },
    mutations: { networkMode: "always" },
  },
});

const root = document.getElementById("root");
if (!root) throw new Error("The page has no root to draw in.");
createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <App />
    </QueryClientProvider>
  </StrictMode>,
);
