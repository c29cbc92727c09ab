import type { ReactNode } from "react";
import { ErrorBoundary } from "react-error-boundary";
import { t } from "@lingui/core/macro";
import { isOfEarlierVersion } from "./failing";
import { Button } from "./Button";
import { goTo } from "../api/address";

type Props = {
  /** What it is that may fail: "This table". */
  what: string;
  /** What is open changes: what failed is tried again. */
  resetKeys?: unknown[];
  onFail?: () => void;
  children: ReactNode;
};

/** A view that fails alone: what failed is said, with ways on; the rest of the page stays. */
export function Boundary({ what, resetKeys, onFail, children }: Props) {
  return (
    <ErrorBoundary
      resetKeys={resetKeys}
      onError={onFail}
      fallbackRender={({ error, resetErrorBoundary }) => (
        <div role="alert" className="m-auto flex max-w-md flex-col items-start gap-3 p-8">
          <p className="font-heading text-lg">
            {isOfEarlierVersion(error) ? t`A part of this page could not be loaded` : t`${what} stopped working`}
          </p>
          <p className="text-slate">
            {isOfEarlierVersion(error)
              ? t`The application may have been updated. Reload the page to go on. Your work is kept in this browser.`
              : t`Saved work is safe, and what is not saved yet is kept in this browser.`}
          </p>
          <div className="flex flex-wrap gap-2">
            {isOfEarlierVersion(error) ? (
              <Button kind="main" onClick={() => location.reload()}>
                {t`Reload`}
              </Button>
            ) : (
              <Button kind="main" onClick={resetErrorBoundary}>
                {t`Try again`}
              </Button>
            )}
            <Button onClick={() => goTo("/")}>{t`Back to the shelf`}</Button>
          </div>
        </div>
      )}
    >
      {children}
    </ErrorBoundary>
  );
}
