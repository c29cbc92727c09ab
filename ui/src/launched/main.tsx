import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import "../app/app.css";
import { problemOf } from "../api/client";
import { Boundary } from "../kit/Boundary";
import { Said } from "../kit/Said";
import { drawTips } from "../kit/tip";
import { Chooser } from "./Chooser";
import { LinkResults } from "./LinkResults";
import { admitted } from "./pass";

drawTips();

const kind = location.pathname.endsWith("/choose") ? "choose" : "see";

/** What whoever teaches opens from a course of a learning platform. */
function Launched() {
  const page = useQuery({ queryKey: ["admitted"], queryFn: () => admitted(kind), retry: false, staleTime: Infinity });
  if (page.isPending) return <main className="p-8 text-slate">{t`Opening…`}</main>;
  if (page.isError)
    return (
      <main className="mx-auto max-w-lg p-8">
        <Said problem={problemOf(page.error)} />
      </main>
    );
  return kind === "choose" ? <Chooser page={page.data} /> : <LinkResults page={page.data} />;
}

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={new QueryClient()}>
      <Boundary what={t`This page`}>
        <Launched />
      </Boundary>
    </QueryClientProvider>
  </StrictMode>,
);
