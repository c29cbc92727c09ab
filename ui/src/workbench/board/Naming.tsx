import { t } from "@lingui/core/macro";
import { placed } from "../../board/TargetWell";
import { rename } from "../model/changes";
import { itemOf, nameOf, sceneryOf, targetOf, type PartID } from "../../document/parts";
import { useDraft, useDraftStore } from "../model/draft";
import { NameField } from "../../kit/NameField";
import { useBoardView, useBoardViewStore } from "./boardView";
import { frameOf } from "../model/frames";
import { TextEditor } from "./TextEditor";

/** The name or text of a part on the board, written where it stands. */
export function NamingOnBoard() {
  const view = useBoardViewStore();
  const naming = useBoardView((v) => v.naming);
  const there = useDraft((s) => !!naming && naming.kind !== "scenery" && !!frameOf(s.doc, naming));
  const writing = useDraft((s) => (naming?.kind === "scenery" ? sceneryOf(s.doc, naming.id) : undefined));
  const done = () => view.setState({ naming: null });
  if (writing) return <TextEditor scenery={writing} onDone={done} />;
  return naming && there ? <Naming part={naming} onDone={done} /> : null;
}

/** The name of an item that stands in the tray. */
export function NamingInTray() {
  const view = useBoardViewStore();
  const naming = useBoardView((v) => v.naming);
  const here = useDraft((s) => naming?.kind === "item" && !frameOf(s.doc, naming));
  return naming && here ? <Naming part={naming} onDone={() => view.setState({ naming: null })} /> : null;
}

function Naming({ part, onDone }: { part: PartID; onDone: () => void }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const found = part.kind === "item" ? itemOf(doc, part.id) : targetOf(doc, part.id);
  const frame = frameOf(doc, part);
  return (
    <span
      data-editor
      className={`grid place-items-center ${frame ? "" : "absolute top-2 left-2"}`}
      style={{ ...(frame ? placed(frame) : {}), zIndex: 1600 }}
    >
      <NameField
        label={t`Name of ${part.kind} ${nameOf(found)}`}
        value={nameOf(found)}
        className="w-32"
        onDone={(name) => {
          onDone();
          if (name) store.getState().change(rename(part, name));
        }}
      />
    </span>
  );
}
