import type { PartID } from "../../document/parts";

/** How a part is named in the page, as data-part. */
export const partName = ({ kind, id }: PartID) => `${kind}-${id}`;

/** The part that an element belongs to. */
export function partAt(element: Element | null): PartID | undefined {
  const name = element?.closest<HTMLElement>("[data-part]")?.dataset.part;
  const cut = name?.indexOf("-") ?? -1;
  return name && cut > 0 ? { kind: name.slice(0, cut) as PartID["kind"], id: name.slice(cut + 1) } : undefined;
}
