import { t } from "@lingui/core/macro";
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
          of={t`Picture of the reply`}
          onDone={(id) =>
            tell(
              id ? t`give a reply a picture` : t`remove the picture`,
              id ? { picture: id } : { picture: "", alt: "" },
            )
          }
        />
        {say.picture && (
          <ChoiceField
            label={t`The picture stands`}
            values={[say.layout ?? "above"]}
            options={[
              ["above", t`above the text`],
              ["beside", t`beside the text`],
              ["below", t`below the text`],
            ]}
            onDone={(layout) => tell(t`change where the picture is`, { layout: layout as Say["layout"] })}
          />
        )}
        {say.picture && (
          <TextField
            label={t`alternative text`}
            values={[say.alt]}
            onDone={(alt) => tell(t`write alternative text`, { alt })}
          />
        )}
      </div>
      <SoundField
        sound={say.sound}
        of="reply"
        onDone={(sound) => tell(sound ? t`give a reply a sound` : t`remove the sound`, { sound })}
      />
      {say.sound && (
        <TextField
          label={t`Transcript`}
          values={[say.transcript]}
          onDone={(transcript) => tell(t`write a transcript`, { transcript })}
        />
      )}
    </>
  );
}
