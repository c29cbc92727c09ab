import { createStore } from "zustand";
import { equal, test } from "../testing";
import { documentSession, type Session } from "./history";
import { Saver } from "./saver";
import { UnsavedWork } from "./unsaved";

type Note = { text: string };

test("saver: what is still worked out when somebody leaves or releases is saved too", async () => {
  const draft = { id: "note", document: { text: "" }, revision: 1 };
  const store = createStore<Session<Note>>((set, get) =>
    documentSession<Note, Session<Note>>(draft, set, get, { mayChange: true }),
  );
  const written: string[] = [];
  const saver = new Saver<Note>(
    store,
    async (_id, revision, _save, doc) => {
      written.push(doc.text);
      return { revision: revision + 1 };
    },
    new UnsavedWork("ana", "note", "note"),
  );
  let answer = () => {};
  const acting = new Promise<void>((done) => (answer = done)).then(() => {
    store.getState().change({ says: "write", apply: (d) => void (d.text = "Grease the hub") });
    store.setState({ acting: undefined });
  });
  store.setState({ acting });
  const left = saver.stop();
  answer();
  await left;
  equal(written, ["Grease the hub"]);
  equal(store.getState().saving, "saved");
});
