import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { BrowserRouter } from "react-router";
import "./app.css";
import { App } from "./App";
import { tellWhatFails } from "../kit/failing";
import { drawTips } from "../kit/tip";
import { base } from "../api/address";
import { engine } from "../engine/engine";
import { GeometryProvider } from "../player/geometry";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } } });

tellWhatFails();
drawTips();

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <GeometryProvider value={engine}>
        <BrowserRouter basename={base}>
          <App />
        </BrowserRouter>
      </GeometryProvider>
    </QueryClientProvider>
  </StrictMode>,
);
