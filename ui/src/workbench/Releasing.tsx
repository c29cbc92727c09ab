import { api, ask, Failed } from "../api/client";
import { ReleaseDialog } from "../release/ReleaseDialog";
import { useDraft, useDraftStore } from "./draft";
import type { Saver } from "./saving";

/** Releases the activity that is being worked on, once it is saved. */
export function Releasing({ saver, onClose }: { saver: Saver; onClose: () => void }) {
  const store = useDraftStore();
  const { id, known, doc } = useDraft((s) => s);
  const release = async () => {
    await saver.flush();
    const { revision, saving, problem } = store.getState();
    if (saving !== "saved") {
      if (problem) throw new Failed(problem);
      return undefined;
    }
    const made = await ask(api.POST("/api/activities/{id}/releases", { params: { path: { id } }, body: { revision } }));
    store.setState({ released: true });
    return made;
  };
  const { attempts, wrongPieces, rightPieces } = doc.play;
  return (
    <ReleaseDialog
      id={id}
      title={doc.title}
      release={release}
      onClose={onClose}
      facts={
        <>
          <li>
            {known?.pieces ?? doc.items.length} pieces, {doc.targets.length} targets
            {known && known.nowhere.length > 0 && `, ${known.nowhere.length} belong nowhere`}
          </li>
          <li>
            {attempts === 0 ? "Any number of attempts" : attempts === 1 ? "One attempt" : `${attempts} attempts`}
            {wrongPieces === "home" && ", wrong pieces go home"}
            {rightPieces === "hold" && ", right ones are held"}
          </li>
          <li>{doc.marks.points} points</li>
        </>
      }
    />
  );
}
