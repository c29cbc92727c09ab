import { createStore } from "zustand/vanilla";

export type Notice = { id: number; text: string; action?: { label: string; run: () => void } };

/** What is told to whoever is at the page, wherever it happened. */
export const notices = createStore<{ list: Notice[] }>(() => ({ list: [] }));

let next = 1;

/** Tells something once: while it is shown, the same is not told again. */
export function tell(text: string, action?: Notice["action"]) {
  const { list } = notices.getState();
  if (list.some((n) => n.text === text)) return;
  notices.setState({ list: [...list.slice(-2), { id: next++, text, action }] });
}

export const dismiss = (id: number) => notices.setState({ list: notices.getState().list.filter((n) => n.id !== id) });
