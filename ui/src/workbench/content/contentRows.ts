import { plural, t } from "@lingui/core/macro";
import type { Doc, Item } from "../../api/types";
import type { PartID } from "../../document/parts";

export type ContentRow = { title: string; part?: undefined } | { part: PartID; number: number; title?: undefined };

/** Items, then targets; those that the words are found in, grouped by their first tag where that is asked. */
export function contentRows(doc: Doc, find: string, byTag: boolean): ContentRow[] {
  const words = find.trim().toLowerCase();
  const found = (...texts: string[]) => !words || texts.some((t) => t.toLowerCase().includes(words));
  const rows: ContentRow[] = [];
  let number = 0;
  const add = (kind: PartID["kind"], id: string) => rows.push({ part: { kind, id }, number: number++ });

  const items = doc.items.filter((i) => found(i.name, i.text, i.alt, ...i.tags));
  const groups = new Map<string, Item[]>();
  for (const i of items) {
    const tag = byTag ? (i.tags[0] ?? "") : "";
    groups.set(tag, [...(groups.get(tag) ?? []), i]);
  }
  for (const [tag, list] of groups) {
    const many = plural(list.length, { one: "# item", other: "# items" });
    rows.push({ title: byTag ? `${tag || t`no tag`} · ${many}` : many });
    list.forEach((i) => add("item", i.id));
  }
  const targets = doc.targets.filter((t) => found(t.name, t.label.text));
  if (targets.length > 0) rows.push({ title: plural(targets.length, { one: "# target", other: "# targets" }) });
  targets.forEach((t) => add("target", t.id));
  return rows;
}
