import { TransNoContext, type TransProps } from "@lingui/react/server";
import { i18n } from "./spoken";

/** A sentence with elements in it. Texts filled in are shown as they are: a title may hold what looks like a tag. */
export function Trans({ id, message, values, components }: TransProps) {
  const shown = Object.entries(values ?? {}).map(([name, value]) => [
    name,
    typeof value === "string" ? [value] : value,
  ]);
  // Called, since it holds no state: a sentence is one component to draw, not three.
  return TransNoContext({
    id,
    message,
    values: Object.fromEntries(shown),
    components,
    lingui: { i18n },
    component: null,
  });
}
