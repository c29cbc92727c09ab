import { memo } from "react";
import type { Me } from "../../api/types";
import { useDraft, useDraftStore } from "../model/draft";
import { Releasing } from "./Releasing";
import type { Doc } from "../../api/types";
import type { Saver } from "../../document/saver";
import { Comments } from "./Comments";
import { DraftLinks } from "./DraftLinks";
import { MediaDialog } from "./MediaDialog";
import { Revisions } from "./Revisions";
import { SwapDialog } from "./SwapDialog";
import { TableDialog } from "./TableDialog";
import { TagPlacesDialog } from "./TagPlacesDialog";
import { TagsDialog } from "./TagsDialog";
import { ThemeDialog } from "./ThemeDialog";

/** What is asked over the workbench, one at a time. */
export const Dialogs = memo(function Dialogs({ saver, me }: { saver: Saver<Doc>; me: Me }) {
  const store = useDraftStore();
  const asking = useDraft((s) => s.asking);
  switch (asking) {
    case "comments":
      return <Comments me={me} />;
    case "draftLinks":
      return <DraftLinks saver={saver} />;
    case "media":
      return <MediaDialog />;
    case "release":
      return me.role === "designer" && <Releasing saver={saver} onClose={() => store.setState({ asking: "" })} />;
    case "revisions":
      return <Revisions saver={saver} />;
    case "swap":
      return <SwapDialog />;
    case "table":
      return <TableDialog saver={saver} />;
    case "tagPlaces":
      return <TagPlacesDialog />;
    case "tags":
      return <TagsDialog />;
    case "theme":
      return <ThemeDialog />;
    default:
      return null;
  }
});
