import { useRef } from "react";
import type { Reply } from "../../api/types";
import { mediaURL } from "../../shared/mediaURL";
import { Button } from "../../shared/Button";
import { ToneMark } from "../../shared/ToneMark";
import { problemOf } from "../../api/client";
import { nameOf } from "../changes";
import { upload } from "../content/files";
import { useDraft, useDraftStore } from "../draft";
import { CheckField, ChoiceField, TextField } from "../sheet/fields";
import { SoundField } from "../sheet/SoundField";
import { change } from "./changes";

const tones: [Reply["tone"], string][] = [
  ["right", "right"],
  ["near", "nearly"],
  ["wrong", "not right"],
  ["plain", "plain"],
];

const fillIns = ["item", "target", "right", "total", "left", "attempt", "score", "points", "percent"];

const offers: [string, string][] = [
  ["again", "try again"],
  ["restart", "start over"],
  ["next", "go on (in a series)"],
  ["back", "one step back (in a series)"],
];

/** What a reply says and does. */
export function SaidFields({ reply }: { reply: Reply }) {
  const store = useDraftStore();
  const doc = useDraft((s) => s.doc);
  const text = useRef<HTMLTextAreaElement>(null);
  const file = useRef<HTMLInputElement>(null);
  const set = (says: string, apply: (r: Reply) => void, merge?: string) => change(store, reply.id, says, apply, merge);
  const { say } = reply;
  const fill = (name: string) => {
    const t = text.current;
    if (!t) return;
    t.setRangeText(`{${name}}`, t.selectionStart, t.selectionEnd, "end");
    t.focus();
    set("change what is said", (r) => (r.say.text = t.value));
  };
  const picture = async (chosen: File) => {
    try {
      const { id } = await upload(chosen, chosen.name);
      set("give a reply a picture", (r) => (r.say.picture = id));
    } catch (error) {
      store.setState({ remark: problemOf(error).detail });
    }
  };
  const page = reply.offer.find((o) => o.startsWith("page:"))?.slice(5) ?? "";
  return (
    <div className="flex flex-col gap-2 px-4 py-2">
      <div role="radiogroup" aria-label="Tone" className="flex flex-wrap gap-1">
        {tones.map(([tone, name]) => (
          <button
            key={tone}
            type="button"
            role="radio"
            aria-checked={reply.tone === tone}
            onClick={() => set("change the tone", (r) => (r.tone = tone))}
            className={`flex h-7 items-center gap-1.5 rounded-(--radius) border px-2 ${reply.tone === tone ? "border-feather bg-feather-soft" : "border-line"}`}
          >
            <ToneMark tone={tone} className="size-4!" /> {name}
          </button>
        ))}
      </div>
      <textarea
        ref={text}
        aria-label="What is said"
        key={reply.id}
        defaultValue={say.text}
        rows={2}
        maxLength={4000}
        placeholder="What learners read. *Stress*, **strong**, lists with a dash."
        onChange={(e) => set("change what is said", (r) => (r.say.text = e.target.value), "say")}
        className="rounded-(--radius) border border-line bg-paper px-2 py-1.5"
      />
      <p className="flex flex-wrap items-center gap-x-2 text-[13px] text-slate">
        put in
        {fillIns.map((name) => (
          <button key={name} type="button" onClick={() => fill(name)} className="text-feather hover:underline">
            {`{${name}}`}
          </button>
        ))}
      </p>
      <div className="grid grid-cols-4 items-end gap-2">
        <ChoiceField
          label="stands"
          values={[reply.spot]}
          options={[
            ["edge", "at the board’s edge"],
            ["piece", "beside the piece"],
            ["target", "beside the target"],
            ["card", "as a card over the board"],
            ["frame", "where it is put on the board"],
          ]}
          onDone={(to) =>
            set("say where it stands", (r) => {
              r.spot = to as Reply["spot"];
              if (r.spot === "frame") r.frame ??= { x: 40, y: 40, w: 360, h: 90 };
              else delete r.frame;
            })
          }
        />
        <ChoiceField
          label="until"
          values={[reply.until ?? (reply.spot === "card" ? "closed" : "check")]}
          options={[
            ["move", "the next move"],
            ["check", "the next check"],
            ["closed", "it is closed"],
            ["stays", "it stays"],
          ]}
          onDone={(to) => set("say how long it stands", (r) => (r.until = to as Reply["until"]))}
        />
        <ChoiceField
          label="points out"
          values={[""]}
          options={[
            ["", reply.point.length === 0 ? "nothing" : "one more …"],
            ["wrong", "what is wrong"],
            ["right", "what is right"],
            ["missing", "what is missing"],
            ...doc.targets.map((t): [string, string] => [t.id, nameOf(t)]),
            ...doc.items.map((i): [string, string] => [i.id, nameOf(i)]),
            ...doc.scenery.filter((x) => x.frame).map((x): [string, string] => [x.id, x.text || x.alt || x.id]),
          ]}
          onDone={(id) => id && set("point something out", (r) => void (!r.point.includes(id) && r.point.push(id)))}
        />
        <CheckField
          label="dims the rest"
          values={[reply.dim]}
          onDone={(on) => set("dim the rest", (r) => (r.dim = on))}
        />
      </div>
      {reply.point.length > 0 && (
        <p className="flex flex-wrap gap-1">
          {reply.point.map((id) => (
            <button
              key={id}
              type="button"
              title="Do not point it out"
              onClick={() => set("point out less", (r) => (r.point = r.point.filter((x) => x !== id)))}
              className="rounded-(--radius) border border-edge px-2"
            >
              {{ right: "what is right", wrong: "what is wrong", missing: "what is missing" }[id] ??
                nameOf(doc.targets.find((t) => t.id === id) ?? doc.items.find((i) => i.id === id)) ??
                id}{" "}
              ✕
            </button>
          ))}
        </p>
      )}
      <div className="flex flex-wrap gap-x-4">
        <CheckField
          label="shows the answer"
          values={[reply.showKey]}
          onDone={(on) => set("show the answer", (r) => (r.showKey = on))}
        />
        <CheckField
          label="ends the activity"
          values={[reply.finish]}
          onDone={(on) => set("end the activity", (r) => (r.finish = on))}
        />
        <CheckField
          label="can be opened again from its piece"
          values={[reply.reopen]}
          onDone={(on) => set("let it be opened again", (r) => (r.reopen = on))}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-4" role="group" aria-label="Offers">
        <span className="text-slate">offers to</span>
        {offers.map(([id, name]) => (
          <CheckField
            key={id}
            label={name}
            values={[reply.offer.includes(id)]}
            onDone={(on) =>
              set("change what is offered", (r) => (r.offer = on ? [...r.offer, id] : r.offer.filter((o) => o !== id)))
            }
          />
        ))}
        <span className="w-40">
          <TextField
            label="read again the page (its id)"
            values={[page]}
            onDone={(id) =>
              set("change what is offered", (r) => {
                r.offer = r.offer.filter((o) => !o.startsWith("page:"));
                const clean = id
                  .trim()
                  .toLowerCase()
                  .replace(/[^a-z0-9-]+/g, "-");
                if (clean) r.offer.push(`page:${clean}`);
              })
            }
          />
        </span>
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {say.picture && (
          <img src={mediaURL(say.picture)} alt="" className="h-12 rounded-sm border border-line bg-picture" />
        )}
        <Button className="h-7 px-2" onClick={() => file.current?.click()}>
          {say.picture ? "Another picture…" : "Picture…"}
        </Button>
        {say.picture && (
          <Button
            kind="quiet"
            className="h-7 px-2"
            onClick={() => set("take the picture off", (r) => (r.say.picture = ""))}
          >
            Take the picture off
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
            onDone={(alt) => set("write alternative text", (r) => (r.say.alt = alt))}
          />
        )}
      </div>
      <SoundField
        sound={say.sound}
        of=" of the reply"
        onDone={(sound) => set(sound ? "give a reply a sound" : "take the sound off", (r) => (r.say.sound = sound))}
      />
      {say.sound && (
        <TextField
          label="what the sound says"
          values={[say.transcript]}
          onDone={(t) => set("write a transcript", (r) => (r.say.transcript = t))}
        />
      )}
    </div>
  );
}
