import { t } from "@lingui/core/macro";
import type { Condition, Doc } from "../../api/types";
import type { Selection } from "../model/draft";

export type Form =
  | "outcome"
  | "target"
  | "item"
  | "piece"
  | "onto"
  | "result"
  | "left"
  | "attempt"
  | "percent"
  | "rightCount"
  | "wrongCount"
  | "missingCount"
  | "homeCount"
  | "solution"
  | "any"
  | "all"
  | "none";

type Making = (doc: Doc, chosen: Selection) => Condition;
const firstItem = (doc: Doc, s: Selection) => s.items[0] ?? doc.items[0]?.id ?? "";
const firstTarget = (doc: Doc, s: Selection) => s.targets[0] ?? doc.targets[0]?.id ?? "";
const selector = (items: string[]) => ({ all: false, items, tags: [], except: [] });

/** Every form of condition: what it asks, and what a new one says; placed ones speak of the piece put down. */
export const forms: Record<Form, { title: string; make: Making; placed?: boolean }> = {
  piece: { title: t`which piece it is`, placed: true, make: (d, s) => ({ piece: selector([firstItem(d, s)]) }) },
  onto: { title: t`where it is put`, placed: true, make: (d, s) => ({ onto: [firstTarget(d, s)] }) },
  result: { title: t`whether it is correct there`, placed: true, make: () => ({ result: "wrong" }) },
  outcome: { title: t`overall result`, make: () => ({ outcome: "part" }) },
  target: { title: t`state of a target`, make: (d, s) => ({ target: firstTarget(d, s), is: "right" }) },
  item: { title: t`state or place of an item`, make: (d, s) => ({ item: firstItem(d, s), is: "wrong" }) },
  left: { title: t`attempts left`, make: () => ({ left: { max: 0 } }) },
  attempt: { title: t`which attempt it is`, make: () => ({ attempt: { min: 1, max: 1 } }) },
  percent: { title: t`the score in percent`, make: () => ({ percent: { min: 60 } }) },
  rightCount: { title: t`how many are correct`, make: () => ({ rightCount: { min: 1 } }) },
  wrongCount: { title: t`how many are wrong`, make: () => ({ wrongCount: { min: 1 } }) },
  missingCount: { title: t`how many items are missing`, make: () => ({ missingCount: { min: 1 } }) },
  homeCount: { title: t`how many are not placed`, make: () => ({ homeCount: { min: 1 } }) },
  solution: { title: t`which solution it is closest to`, make: () => ({ solution: 0 }) },
  any: { title: t`any of …`, make: () => ({ any: [{ outcome: "right" }] }) },
  none: { title: t`none of …`, make: (d, s) => ({ none: [{ target: firstTarget(d, s), is: "right" }] }) },
  all: { title: t`all of …`, make: () => ({ all: [{ outcome: "part" }] }) },
};

export function formOf(c: Condition): Form {
  for (const form of Object.keys(forms) as Form[]) {
    if (form !== "target" && form !== "item" && form in c) return form;
  }
  return "item" in c ? "item" : "target";
}
