import { createStore } from "zustand";
import { equal, test } from "../testing";
import { documentSession, type Merge, type Session } from "./history";

type Note = { text: string };

test("history: one act is one step, however long it is worked on; nudges only within a moment", () => {
  const clock = Date.now;
  let now = 0;
  Date.now = () => now;
  try {
    const store = createStore<Session<Note>>((set, get) =>
      documentSession<Note, Session<Note>>({ id: "note", document: { text: "" }, revision: 1 }, set, get, {
        mayChange: true,
      }),
    );
    const add = (text: string, merge: Merge | undefined, after: number) => {
      now += after;
      store.getState().change({ says: "add", merge, apply: (d) => void (d.text += text) });
    };
    const left = () => {
      store.getState().undo();
      return store.getState().doc.text;
    };
    const [one, other] = [Symbol(), Symbol()];
    add("a", one, 0);
    add("b", one, 60_000);
    add("c", other, 1);
    equal(left(), "ab");
    equal(left(), "");
    add("d", "nudge", 0);
    add("e", "nudge", 500);
    add("f", "nudge", 2_000);
    equal(left(), "de");
    equal(left(), "");
    add("g", undefined, 0);
    add("h", undefined, 0);
    equal(left(), "g");
  } finally {
    Date.now = clock;
  }
});
