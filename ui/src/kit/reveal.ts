/** As a ref: what opens is brought into view, as far as it finds room there. */
export function reveal(e: HTMLElement | null) {
  e?.scrollIntoView({ block: e.offsetHeight > innerHeight / 2 ? "start" : "nearest" });
}
