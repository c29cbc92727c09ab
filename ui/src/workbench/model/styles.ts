import { t } from "@lingui/core/macro";
import type { Item, Look, Scenery, Style, Target } from "../../api/types";

/** A part whose looks can depart from the theme. */
export type Dressed = Item | Target | Scenery;

/** A copy to be changed, also of what stands in a document that is being changed (whose parts cannot be cloned). */
const copyOf = <T>(v: T): T => (v === undefined ? v : (JSON.parse(JSON.stringify(v)) as T));

const plain = (): Style => ({ fill: "", crop: "none", card: true, shadow: false });

const isScenery = (part: Dressed): part is Scenery => "type" in part;

/** Points at which an item or a target can look different, in the order in which they come. */
export const points = {
  item: [
    ["rest", t`at rest`],
    ["inHand", t`in hand`],
    ["overOpen", t`over a target that accepts it`],
    ["overClosed", t`over one that does not accept it`],
    ["placed", t`placed`],
    ["heldInPlace", t`held in place`],
    ["right", t`right`],
    ["wrong", t`wrong`],
  ],
  target: [
    ["rest", t`at rest`],
    ["beckoning", t`while a piece is in hand`],
    ["overOpen", t`under a piece that it accepts`],
    ["overClosed", t`under one that it rejects`],
    ["right", t`right`],
    ["part", t`partly correct`],
    ["wrong", t`wrong`],
  ],
} satisfies Record<string, [string, string][]>;

type Looks = Record<string, Look | undefined>;

export function lookOf(part: Dressed, point: string): Look | undefined {
  return isScenery(part) ? undefined : (part.looks as Looks | undefined)?.[point];
}

/** Changes how a part looks at a point; what is as the theme has it is left out. */
export function setLook(part: Dressed, point: string, set: (look: Look) => void) {
  if (isScenery(part)) return;
  const looks = { ...(part.looks as Looks | undefined) };
  const look = copyOf(looks[point] ?? {}) as Look;
  set(look);
  for (const key of Object.keys(look) as (keyof Look)[]) if (look[key] === undefined) delete look[key];
  if (Object.keys(look).length > 0) looks[point] = look;
  else delete looks[point];
  if (Object.keys(looks).length > 0) part.looks = looks as typeof part.looks;
  else delete part.looks;
}

export function styleOf(part: Dressed, point: string): Style | undefined {
  return isScenery(part) ? part.style : lookOf(part, point)?.style;
}

/** Changes the style of a part at a point; of scenery the only one. */
export function setStyle(part: Dressed, point: string, set: (style: Style) => void) {
  const style = copyOf(styleOf(part, point)) ?? plain();
  set(style);
  const { edge, text } = style;
  if (edge && !edge.color && edge.width === undefined && !edge.dash) delete style.edge;
  if (text && !text.color && !text.align && text.size === undefined && !text.weight) delete style.text;
  for (const key of ["corner"] as const) if (style[key] === undefined) delete style[key];
  const kept = JSON.stringify(style) === JSON.stringify(plain()) ? undefined : style;
  if (isScenery(part)) {
    if (kept) part.style = kept;
    else delete part.style;
  } else setLook(part, point, (look) => (look.style = kept));
}
