import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { Button } from "../kit/Button";
import { wordsFor } from "../words/words";

/** Where the page of a learner stops working, it says so and offers to go on: every move is kept. */
export function Stopped({ children }: { children: ReactNode }) {
  const w = wordsFor(document.documentElement.lang || navigator.language);
  return (
    <ErrorBoundary
      fallbackRender={() => (
        <div role="alert" className="m-auto flex max-w-md flex-col items-start gap-3 p-8">
          <h1 className="font-heading text-lg">{w("stopped")}</h1>
          <p>{w("stoppedSafe")}</p>
          <Button kind="main" onClick={() => location.reload()}>
            {w("reload")}
          </Button>
        </div>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
