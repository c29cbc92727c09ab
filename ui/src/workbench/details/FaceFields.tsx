import { Fragment } from "react";
import { t } from "@lingui/core/macro";
import type { Say } from "../../engine/engine";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/FilePick";
import type { Item } from "../../api/types";
import { setText } from "../model/changes";
import { putPicture } from "../model/useFileDrop";
import { styleOf } from "../model/styles";
import { useDraft, useDraftStore } from "../model/draft";
import { CheckField, ChoiceField, Group, NumberField, TextField } from "../../kit/fields";
import type { Set } from "./Sheet";
import { SoundField } from "../model/SoundField";

/** What items show and say. */
export function FaceFields({ items, set }: { items: Item[]; set: Set }) {
  const store = useDraftStore();
  const one = items.length === 1 ? items[0] : undefined;
  const pictured = items.some((i) => i.picture);
  return (
    <>
      <Group title={t`Piece`}>
        <TextField
          label={t`Text`}
          wide
          values={items.map((i) => i.text)}
          onDone={(text) => set(t`change texts`, ["items"], (i) => setText(i, text))}
        />
        <TextField
          label={t`Alternative text`}
          wide
          values={items.map((i) => i.alt)}
          placeholder={pictured ? t`missing` : ""}
          onDone={(alt) => set(t`change alternative texts`, ["items"], (i) => (i.alt = alt))}
        />
        <NumberField
          label={t`Copies`}
          values={items.map((i) => i.copies)}
          low={1}
          high={99}
          whole
          onDone={(n) => set(t`change copies`, ["items"], (i) => (i.copies = n!))}
        />
        <ChoiceField
          label={t`Dropped outside targets`}
          values={items.map((i) => i.offTarget)}
          options={[
            ["", t`as the activity says`],
            ["home", t`returns to its start`],
            ["stay", t`stays there`],
          ]}
          onDone={(to) =>
            set(t`change where it goes`, ["items"], (i) => {
              if (to) i.offTarget = to as "home" | "stay";
              else delete i.offTarget;
            })
          }
        />
        <div className="col-span-full flex flex-wrap items-center gap-2">
          <Button className="h-7 px-2" onClick={() => store.setState({ asking: "media" })}>
            {t`Picture from Media…`}
          </Button>
          {one && (
            <FilePick
              className="h-7 px-2"
              label={t`Picture for this item`}
              accept="image/*"
              onFiles={([file]) => void putPicture(store, file!, { item: one.id })}
            >
              {one.picture ? t`Replace the picture…` : t`Picture from a file…`}
            </FilePick>
          )}
          {pictured && (
            <Button
              kind="quiet"
              className="h-7 px-2"
              onClick={() =>
                set(t`remove pictures`, ["items"], (i) => {
                  i.picture = "";
                  // What is neither picture nor shape would be blank.
                  if (!i.text && !styleOf(i, "rest")?.shape) i.text = i.name;
                })
              }
            >
              {t`Remove picture`}
            </Button>
          )}
        </div>
        {one && (
          <SoundField
            sound={one.sound}
            onDone={(sound) =>
              set(sound ? t`give it a sound` : t`remove the sound`, ["items"], (i) => (i.sound = sound))
            }
          />
        )}
        {items.some((i) => i.sound) && (
          <>
            <TextField
              label={t`Transcript`}
              wide
              values={items.map((i) => i.transcript)}
              onDone={(text) => set(t`write transcripts`, ["items"], (i) => (i.transcript = text))}
            />
            <CheckField
              label={t`Play on pick-up`}
              values={items.map((i) => i.playSound === "pick")}
              onDone={(on) => set(t`change when it plays`, ["items"], (i) => (i.playSound = on ? "pick" : "request"))}
            />
          </>
        )}
      </Group>
      <Said items={items} />
    </>
  );
}

const nothing: Say = { text: "", picture: "", alt: "", sound: "", transcript: "" };

/** What is said when one of these pieces is placed right, or wrong. */
function Said({ items }: { items: Item[] }) {
  const store = useDraftStore();
  const slots = useDraft((s) => s.known?.slots);
  const replies = useDraft((s) => s.doc.replies);
  const one = items.length === 1;
  return (
    <Group title={t`Feedback`}>
      {(["right", "wrong"] as const).map((result) => {
        const at = Object.entries(slots ?? {}).filter(([, s]) => s.moment === "placed" && s.result === result);
        const said = items.map((i) => {
          const number = at.find(([, s]) => s.item === i.id)?.[0];
          return (number !== undefined && replies[Number(number)]?.say) || nothing;
        });
        const say = (part: Partial<Say>) =>
          void store
            .getState()
            .edit(result === "right" ? t`change the feedback if correct` : t`change the feedback if wrong`, {
              act: "sayAt",
              slots: items.map((i) => ({ item: i.id, result, target: "", moment: "placed" })),
              say: part,
            });
        return (
          <Fragment key={result}>
            <TextField
              label={result === "right" ? t`Feedback if correct` : t`Feedback if wrong`}
              wide
              values={said.map((s) => s.text)}
              onDone={(text) => say({ text })}
            />
            {one && <SoundField sound={said[0]!.sound} of={result} onDone={(sound) => say({ sound })} />}
          </Fragment>
        );
      })}
    </Group>
  );
}
