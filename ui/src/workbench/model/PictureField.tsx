import { t } from "@lingui/core/macro";
import { problemOf } from "../../api/client";
import { mediaURL } from "../../board/mediaURL";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/FilePick";
import { upload } from "../../kit/upload";
import { useDraftStore } from "./draft";

type Props = {
  picture: string;
  /** What the picture is of, as the field’s name says it: “picture of the reply”. */
  of: string;
  onDone: (picture: string) => void;
};

/** A picture from a file, with what it shows now. */
export function PictureField({ picture, of, onDone }: Props) {
  const store = useDraftStore();
  const take = async (file: File) => {
    try {
      onDone((await upload(file, file.name)).id);
    } catch (error) {
      store.setState({ remark: problemOf(error).detail });
    }
  };
  return (
    <span className="flex flex-wrap items-center gap-x-1 gap-y-1.5">
      {picture && <img src={mediaURL(picture)} alt="" className="h-9 rounded-sm border border-line bg-picture" />}
      <FilePick label={of} accept="image/*" onFiles={([file]) => file && void take(file)}>
        {picture ? t`Replace picture…` : t`Picture…`}
      </FilePick>
      {picture && (
        <Button kind="quiet" className="px-2" onClick={() => onDone("")}>
          {t`Remove picture`}
        </Button>
      )}
    </span>
  );
}
