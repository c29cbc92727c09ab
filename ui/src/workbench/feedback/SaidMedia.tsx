import type { Say } from "../../engine/engine";
import { ChoiceField, TextField } from "../../kit/fields";
import { PictureField } from "../model/PictureField";
import { SoundField } from "../model/SoundField";

type Props = { say: Say; onTell: (says: string, part: Partial<Say>) => void };

/** The picture and the sound of a reply. */
export function SaidMedia({ say, onTell: tell }: Props) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <PictureField
          picture={say.picture}
          of="Picture of the reply"
          onDone={(id) =>
            tell(id ? "give a reply a picture" : "remove the picture", id ? { picture: id } : { picture: "", alt: "" })
          }
        />
        {say.picture && (
          <ChoiceField
            label="The picture stands"
            values={[say.layout ?? "above"]}
            options={[
              ["above", "above the text"],
              ["beside", "beside the text"],
              ["below", "below the text"],
            ]}
            onDone={(layout) => tell("change where the picture is", { layout: layout as Say["layout"] })}
          />
        )}
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
        onDone={(sound) => tell(sound ? "give a reply a sound" : "remove the sound", { sound })}
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
