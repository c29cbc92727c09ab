import { t } from "@lingui/core/macro";
import { mediaURL } from "../../board/mediaURL";
import type { Drawing } from "../../engine/engine";
import type { DraftStore } from "../model/draft";
import { nameOfFile, upload } from "../../kit/upload";

type Box = { x: number; y: number; w: number; h: number };
type NamedPart = { name: string; svg: string; box: Box; outline: Outline };
/** What a target over the part is: the corners are in the units of the drawing. */
type Outline = { what: "rect" | "ellipse" } | { what: "polygon"; points: [number, number][] };

const space = "http://www.w3.org/2000/svg";

/** What a part of a drawing is called: by its title, else its id, unless a program made that up. */
function nameOf(e: Element): string {
  const title = [...e.children].find((c) => c.localName === "title")?.textContent?.trim();
  if (title) return title;
  return /^(path|rect|g|group|layer|svg|circle|ellipse|polygon|image|use|text|tspan|line)?[-_]?\d*$/i.test(e.id)
    ? ""
    : nameOfFile(e.id);
}

/** The named parts of a drawing that is kept in the workspace, each as a drawing of its own. */
async function partsOf(id: string): Promise<{ parts: NamedPart[]; whole: Box }> {
  const text = await (await fetch(mediaURL(id))).text();
  const drawing = new DOMParser().parseFromString(text, "image/svg+xml").documentElement as unknown as SVGSVGElement;
  // It has to be in the page to be measured; what is kept of it was made safe when it was taken in.
  const stage = document.createElement("div");
  stage.setAttribute("aria-hidden", "true");
  Object.assign(stage.style, { position: "fixed", left: "-9999px", top: "0", width: "1000px" });
  stage.append(drawing);
  document.body.append(stage);
  try {
    const defs = [...drawing.querySelectorAll("defs")].map((d) => d.outerHTML).join("");
    const parts: NamedPart[] = [];
    const look = (parent: Element, wrap: (inside: string) => string) => {
      for (const e of parent.children) {
        if (["defs", "title", "desc", "style", "metadata"].includes(e.localName)) continue;
        const name = nameOf(e);
        const own = [...e.attributes]
          .filter((a) => a.name !== "id")
          .map((a) => ` ${a.name}="${a.value.replace(/&/g, "&amp;").replace(/"/g, "&quot;").replace(/</g, "&lt;")}"`)
          .join("");
        if (!name && e.localName === "g") {
          look(e, (inside) => wrap(`<g${own}>${inside}</g>`)); // a layer: its parts are what is named
          continue;
        }
        if (!name) continue;
        const box = boxIn(drawing, e as SVGGraphicsElement);
        if (box.w < 1 || box.h < 1) continue;
        const svg = `<svg xmlns="${space}" viewBox="${box.x} ${box.y} ${box.w} ${box.h}" width="${box.w}" height="${box.h}">${defs}${wrap(e.outerHTML)}</svg>`;
        parts.push({ name, svg, box, outline: outlineIn(drawing, e as SVGGraphicsElement) });
      }
    };
    look(drawing, (inside) => inside);
    const view = drawing.viewBox.baseVal;
    const whole = view?.width
      ? { x: view.x, y: view.y, w: view.width, h: view.height }
      : { x: 0, y: 0, w: drawing.clientWidth, h: drawing.clientHeight };
    return { parts, whole };
  } finally {
    stage.remove();
  }
}

/** How a point of a part comes to the units of its drawing. */
function toDrawing(drawing: SVGSVGElement, e: SVGGraphicsElement): DOMMatrix {
  const toScreen = e.getScreenCTM();
  const back = drawing.getScreenCTM()?.inverse();
  return toScreen && back ? back.multiply(toScreen) : new DOMMatrix();
}

/** The outline of a part: a round one stays round, one closed line gives the corners of a polygon. */
function outlineIn(drawing: SVGSVGElement, e: SVGGraphicsElement): Outline {
  const m = toDrawing(drawing, e);
  if (/^(circle|ellipse)$/.test(e.localName) && m.b === 0 && m.c === 0) return { what: "ellipse" };
  const closed = e.localName === "polygon" || /^[^z]*z\s*$/i.test(e.getAttribute("d") ?? "");
  if (!closed || !(e instanceof SVGGeometryElement)) return { what: "rect" };
  const corners = e instanceof SVGPolygonElement ? [...e.points] : along(e, 36);
  return {
    what: "polygon",
    points: corners.map((c) => {
      const p = new DOMPoint(c.x, c.y).matrixTransform(m);
      return [p.x, p.y];
    }),
  };
}

function along(e: SVGGeometryElement, steps: number): DOMPoint[] {
  const length = e.getTotalLength();
  return Array.from({ length: steps }, (_, i) => e.getPointAtLength((i * length) / steps));
}

/** The box of a part in the units of its drawing, with its line's width around it. */
function boxIn(drawing: SVGSVGElement, e: SVGGraphicsElement): Box {
  const b = e.getBBox();
  const m = toDrawing(drawing, e);
  const xs: number[] = [];
  const ys: number[] = [];
  for (const [x, y] of [
    [b.x, b.y],
    [b.x + b.width, b.y],
    [b.x, b.y + b.height],
    [b.x + b.width, b.y + b.height],
  ]) {
    const p = new DOMPoint(x, y).matrixTransform(m);
    xs.push(p.x);
    ys.push(p.y);
  }
  const { stroke, strokeWidth } = getComputedStyle(e);
  const pad = stroke === "none" ? 0 : Number.parseFloat(strokeWidth) / 2 || 0;
  const round = (v: number) => Math.round(100 * v) / 100;
  const x = Math.min(...xs) - pad;
  const y = Math.min(...ys) - pad;
  return { x: round(x), y: round(y), w: round(Math.max(...xs) + pad - x), h: round(Math.max(...ys) + pad - y) };
}

/** One item for each named part of a drawing, standing on the board as they stand in it. */
export async function takeNamedParts(store: DraftStore, medium: string, of: string): Promise<void> {
  const { parts, whole } = await partsOf(medium);
  if (parts.length === 0) {
    store.setState({ remark: noNames(of) });
    return;
  }
  const kept = await Promise.all(
    parts.map((p) => upload(new Blob([p.svg], { type: "image/svg+xml" }), `${p.name}.svg`)),
  );
  const merge = Symbol();
  const says = t`import ${parts.length} parts of ${of}`;
  const made = await store
    .getState()
    .edit(says, { act: "addItems", own: true, names: parts.map((p) => p.name) }, merge);
  if (!made) return; // the remark says why
  store.getState().change({
    says,
    merge,
    apply: (doc) => {
      const { width, height } = doc.board;
      const scale = Math.min((0.9 * width) / whole.w, (0.9 * height) / whole.h);
      const left = (width - whole.w * scale) / 2;
      const top = (height - whole.h * scale) / 2;
      parts.forEach((p, i) => {
        const item = doc.items.find((x) => x.id === made.items[i]);
        if (!item) return;
        item.picture = kept[i]!.id;
        item.text = "";
        item.alt = p.name;
        item.size = { w: Math.max(24, Math.round(p.box.w * scale)), h: Math.max(24, Math.round(p.box.h * scale)) };
        item.home = {
          x: Math.max(0, Math.round(left + (p.box.x - whole.x) * scale)),
          y: Math.max(0, Math.round(top + (p.box.y - whole.y) * scale)),
        };
        // They fit each other exactly, so that no card stands behind them.
        item.looks = { rest: { style: { fill: "", crop: "none", card: false, shadow: false } } };
      });
    },
  });
  store.setState({ remark: t`${parts.length} items, one for each named part of ${of}.` });
}

/**
 * One target over each named part of a drawing, exactly where that is: on the drawing
 * where it stands on the board already, else it is put there.
 */
export async function targetsOfNamedParts(store: DraftStore, medium: string, of: string): Promise<void> {
  const { parts, whole } = await partsOf(medium);
  if (parts.length === 0) {
    store.setState({ remark: noNames(of) });
    return;
  }
  const { doc, edit } = store.getState();
  const { width, height, background } = doc.board;
  const there = doc.scenery.find((s) => s.picture === medium)?.frame;
  const ground = background.picture === medium;
  const room = there ?? { x: 0, y: 0, w: width, h: height };
  const scale = Math.min(room.w / whole.w, room.h / whole.h) * (there || ground ? 1 : 0.9);
  const x0 = room.x + (room.w - whole.w * scale) / 2 - whole.x * scale;
  const y0 = room.y + (room.h - whole.h * scale) / 2 - whole.y * scale;
  const round = (v: number) => Math.round(100 * v) / 100;
  const onBoard = ({ x, y, w, h }: Box): Box => ({
    x: round(x0 + x * scale),
    y: round(y0 + y * scale),
    w: round(w * scale),
    h: round(h * scale),
  });
  const says = t`create targets from ${parts.length} parts of ${of}`;
  const merge = Symbol();
  if (!there && !ground) {
    await edit(
      says,
      { act: "draw", drawing: { what: "picture", picture: medium, name: of, frame: onBoard(whole) } },
      merge,
    );
  }
  const made: string[] = [];
  for (const p of parts) {
    const rect: Drawing = { what: "rect", name: p.name, frame: onBoard(p.box) };
    const drawing: Drawing =
      p.outline.what === "polygon"
        ? {
            what: "polygon",
            name: p.name,
            points: p.outline.points.map(([x, y]) => [round(x0 + x * scale), round(y0 + y * scale)]),
          }
        : { ...rect, what: p.outline.what };
    // A line that crosses itself encloses no one area: the target is its box then.
    const done =
      (await edit(says, { act: "draw", drawing }, merge)) ??
      (p.outline.what === "polygon" ? await edit(says, { act: "draw", drawing: rect }, merge) : undefined);
    made.push(...(done?.targets ?? []));
  }
  store.getState().select({ targets: made });
  store.setState({ remark: t`${made.length} targets, one over each named part of ${of}.` });
}

const noNames = (of: string) => t`${of} has no named parts. Name them in your drawing program first.`;

/** Whether a medium is a drawing, by its type. */
export const isDrawing = (type: string) => type === "image/svg+xml";
