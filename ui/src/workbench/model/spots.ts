import { t } from "@lingui/core/macro";
import { mediaURL } from "../../board/mediaURL";
import { engine } from "../../engine/engine";
import type { Doc, Rect } from "../../api/types";
import type { DraftStore } from "./draft";
import { holds } from "./frames";

type Point = { x: number; y: number };

/** The picture that is seen at a place of the board, and where on the board it lies. */
function pictureAt(doc: Doc, at: Point): { picture: string; frame: Rect; contained: boolean } | undefined {
  const s = doc.scenery.findLast((x) => x.type === "picture" && x.picture && x.frame && holds(x.frame, at));
  if (s) return { picture: s.picture!, frame: s.frame!, contained: true };
  const { width, height, background } = doc.board;
  if (!background.picture) return undefined;
  return { picture: background.picture, frame: { x: 0, y: 0, w: width, h: height }, contained: false };
}

const most = 800; // pixels on a side are enough to find an outline

/** A picture's pixels as they lie in their frame. */
async function pixelsOf(picture: string, frame: Rect, contained: boolean) {
  const image = new Image();
  image.src = mediaURL(picture);
  await image.decode();
  const scale = Math.min(1, most / Math.max(frame.w, frame.h));
  const width = Math.max(1, Math.round(frame.w * scale));
  const height = Math.max(1, Math.round(frame.h * scale));
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext("2d", { willReadFrequently: true })!;
  let [w, h] = [width, height];
  if (contained && image.naturalWidth && image.naturalHeight) {
    const fits = Math.min(width / image.naturalWidth, height / image.naturalHeight);
    [w, h] = [image.naturalWidth * fits, image.naturalHeight * fits];
  }
  context.drawImage(image, (width - w) / 2, (height - h) / 2, w, h);
  return { width, height, rgba: context.getImageData(0, 0, width, height).data };
}

function base64(bytes: Uint8ClampedArray): string {
  let text = "";
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000));
  return btoa(text);
}

/** Makes the evenly coloured area at a place of the board a target. */
export async function traceSpot(store: DraftStore, at: Point): Promise<void> {
  const found = pictureAt(store.getState().doc, at);
  if (!found) {
    store.setState({ remark: t`There is no picture here. Set one on the board first, or draw the target.` });
    return;
  }
  const { frame } = found;
  try {
    const { width, height, rgba } = await pixelsOf(found.picture, frame, found.contained);
    const drawing = await engine.spot(
      { width, height, rgba: base64(rgba) },
      Math.min(width - 1, Math.floor(((at.x - frame.x) / frame.w) * width)),
      Math.min(height - 1, Math.floor(((at.y - frame.y) / frame.h) * height)),
      frame,
    );
    const made = await store.getState().edit(t`trace a spot`, { act: "draw", drawing });
    // Keys go on from what was made.
    const id = made?.targets[0];
    if (id && !store.getState().crosshair)
      requestAnimationFrame(() =>
        document.querySelector<HTMLElement>(`[data-part="target-${CSS.escape(id)}"]`)?.focus(),
      );
  } catch (error) {
    store.setState({ remark: error instanceof Error ? error.message : String(error) });
  }
}
