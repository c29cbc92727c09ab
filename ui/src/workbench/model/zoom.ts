import type { DraftStore } from "./draft";

const least = 0.5;
const most = 6;

/** Makes the board larger or smaller than fitting it. */
export function zoomBy(store: DraftStore, factor: number) {
  const zoom = Math.min(most, Math.max(least, store.getState().zoom * factor));
  store.setState({ zoom: Math.abs(zoom - 1) < 0.02 ? 1 : zoom });
}
