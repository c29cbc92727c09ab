import type { PartID } from "../../document/parts";

/**
 * Parts that are moved are drawn once more, together, on a layer of their own that
 * then only slides: a frame costs the same for two hundred as for one.
 */
export function liftedLayer(surface: HTMLElement, parts: PartID[]): HTMLElement {
  const layer = document.createElement("div");
  layer.setAttribute("aria-hidden", "true");
  Object.assign(layer.style, {
    position: "absolute",
    inset: "0",
    zIndex: "2500",
    pointerEvents: "none",
    willChange: "transform",
  });
  const origin = surface.getBoundingClientRect();
  for (const { kind, id } of parts) {
    const found = surface.querySelector<HTMLElement>(`[data-part="${kind}-${CSS.escape(id)}"]`);
    if (!found) continue;
    const at = found.getBoundingClientRect();
    const copy = found.cloneNode(true) as HTMLElement;
    // It is a picture of the part, not the part.
    for (const name of ["data-part", "role", "tabindex", "aria-label", "aria-pressed"]) copy.removeAttribute(name);
    copy.querySelectorAll("[data-gap]").forEach((e) => e.removeAttribute("data-gap"));
    Object.assign(copy.style, {
      position: "absolute",
      left: `${at.left - origin.left}px`,
      top: `${at.top - origin.top}px`,
      width: `${at.width}px`,
      height: `${at.height}px`,
    });
    layer.append(wear(copy, found));
  }
  surface.append(layer);
  return layer;
}

/** Puts a copy into the theme of the board or the tray that its part is in. */
function wear(copy: HTMLElement, found: HTMLElement): HTMLElement {
  const ground = found.closest<HTMLElement>("[data-form]");
  if (!ground) return copy;
  const dressed = document.createElement("div");
  dressed.dataset.form = ground.dataset.form;
  for (const name of ground.style) {
    if (name.startsWith("--")) dressed.style.setProperty(name, ground.style.getPropertyValue(name));
  }
  dressed.append(copy);
  return dressed;
}
