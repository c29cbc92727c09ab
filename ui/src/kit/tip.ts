/**
 * What an element says when it is pointed at or has the focus, beside its name. One
 * component draws what is said, for every element that carries these.
 */
export const tip = (says: string | undefined | false) => (says ? { "data-tip": says, "aria-description": says } : {});

/** The name of a button that shows none, said to all in the same words. */
export const named = (name: string) => ({ "aria-label": name, "data-tip": name });

/** Has tips drawn on this page; what draws them is fetched when a pointer or a key is first used, so that no page waits for it. */
export function drawTips() {
  const used = (e: Event) => {
    if (e instanceof PointerEvent && e.pointerType === "touch") return;
    for (const type of ["pointerover", "keydown"]) document.removeEventListener(type, used);
    void import("./Tips").then(({ mountTips }) => mountTips()).catch(() => {}); // names and descriptions are there without
  };
  for (const type of ["pointerover", "keydown"]) document.addEventListener(type, used);
}
