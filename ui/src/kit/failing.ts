import { t } from "@lingui/core/macro";
import { Failed, problemOf } from "../api/client";
import { NotLoaded, Stopped } from "../engine/engine";
import { tell } from "./notices";

/** A part of the application that the server no longer has: the page is of an earlier version. */
export const isOfEarlierVersion = (error: unknown) =>
  error instanceof NotLoaded ||
  (error instanceof Error && /dynamically imported module|module script|preload CSS/i.test(error.message));

/** Whatever nobody caught is told here, once. */
export function tellWhatFails() {
  window.addEventListener("unhandledrejection", (e) => {
    const error: unknown = e.reason;
    if (error instanceof Stopped || (error instanceof DOMException && error.name === "AbortError")) {
      e.preventDefault();
    } else if (isOfEarlierVersion(error)) {
      tell(t`A part of this page could not be loaded. Your work is kept in this browser.`, {
        label: t`Reload`,
        run: () => location.reload(),
      });
    } else if (error instanceof Failed) {
      // Who is signed out is asked to sign in, and needs no second word.
      if (error.problem.code !== "not-signed-in") tell(problemOf(error).detail);
    } else tell(t`Something went wrong. Saved work is safe.`);
  });
}
