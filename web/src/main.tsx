import "./theme/base.css";
import "./shelf/shelf.css";
import "./bench/bench.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { App as AntApp, ConfigProvider } from "antd";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { ApiFault } from "./api/client";
import { publishColours } from "./theme/colours";
import { theme } from "./theme/theme";
import "./theme/late.css";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      refetchOnWindowFocus: false,
      retry: (count, error) => error instanceof ApiFault && error.code === "connection" && count < 20,
    },
  },
});

publishColours(document.documentElement);
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");
createRoot(root).render(
  <QueryClientProvider client={queries}>
    <ConfigProvider theme={theme} wave={{ disabled: true }}>
      {/* Below the head: what is said covers none of its buttons. */}
      <AntApp message={{ top: 60 }}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </AntApp>
    </ConfigProvider>
  </QueryClientProvider>,
);
