import { useRef } from "react";
import { problemOf } from "../../api/client";
import type { Say } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { mediaURL } from "../../board/mediaURL";
import { upload } from "../../kit/upload";
import { useDraftStore } from "../model/draft";
import { TextField } from "../../kit/fields";
import { SoundField } from "../model/SoundField";

type Props = { say: Say; onTell: (says: string, part: Partial<Say>) => void };

/** The picture and the sound of a reply. */
export function SaidMedia({ say, onTell: tell }: Props) {
  const store = useDraftStore();
  const file = useRef<HTMLInputElement>(null);
  const picture = async (chosen: File) => {
    try {
      const { id } = await upload(chosen, chosen.name);
      tell("give a reply a picture", { picture: id });
    } catch (error) {
      store.setState({ remark: problemOf(error).detail });
    }
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        {say.picture && (
          <img src={mediaURL(say.picture)} alt="" className="h-12 rounded-sm border border-line bg-picture" />
        )}
        <Button className="h-7 px-2" onClick={() => file.current?.click()}>
          {say.picture ? "Replace picture…" : "Picture…"}
        </Button>
        {say.picture && (
          <Button
            kind="quiet"
            className="h-7 px-2"
            onClick={() => tell("take the picture off", { picture: "", alt: "" })}
          >
            Remove picture
          </Button>
        )}
        <input
          ref={file}
          type="file"
          aria-label="Picture of the reply"
          accept="image/*"
          className="hidden"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (chosen) void picture(chosen);
            e.target.value = "";
          }}
        />
        {say.picture && (
          <TextField
            label="alternative text"
            values={[say.alt]}
            onDone={(alt) => tell("write alternative text", { alt })}
          />
        )}
      </div>
      <SoundField
        sound={say.sound}
        of=" of the reply"
        onDone={(sound) => tell(sound ? "give a reply a sound" : "take the sound off", { sound })}
      />
      {say.sound && (
        <TextField
          label="Transcript"
          values={[say.transcript]}
          onDone={(transcript) => tell("write a transcript", { transcript })}
        />
      )}
    </>
  );
}
