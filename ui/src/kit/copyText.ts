import { t } from "@lingui/core/macro";
import { tell } from "./notices";

/** Puts a text on the clipboard. Pages that are not secure do it by a field that is selected. */
export async function copyText(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text);
    return true;
  } catch {
    // no clipboard here, or it is not allowed
  }
  const focus = document.activeElement as HTMLElement | null;
  const field = document.createElement("textarea");
  field.value = text;
  field.className = "sr-only";
  // Inside what has the focus: a dialog gives it to nothing else.
  (focus?.closest("[role=dialog]") ?? document.body).append(field);
  field.select();
  const done = document.execCommand("copy");
  field.remove();
  focus?.focus();
  if (!done) tell(t`This browser does not let the page copy. Select the text and press Ctrl+C.`);
  return done;
}
