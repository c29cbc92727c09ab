import { useEffect, useRef, useState } from "react";
import { Mic, Square, Volume2 } from "lucide-react";
import { t } from "@lingui/core/macro";
import { problemOf } from "../../api/client";
import { Button } from "../../kit/Button";
import { FilePick } from "../../kit/FilePick";
import { mediaURL } from "../../board/mediaURL";
import { upload } from "../../kit/upload";

type Props = { sound: string; of?: keyof typeof words; onDone: (id: string) => void };

/** The sound of an item or a hint, of a reply, or of what is said when a piece is placed. */
const words = {
  part: { sound: t`Sound`, record: t`Record a sound`, file: t`Sound file` },
  reply: { sound: t`Sound of the reply`, record: t`Record a sound of the reply`, file: t`Sound file of the reply` },
  right: { sound: t`Sound when correct`, record: t`Record a sound when correct`, file: t`Sound file when correct` },
  wrong: { sound: t`Sound when wrong`, record: t`Record a sound when wrong`, file: t`Sound file when wrong` },
};
type Recording = { recorder: MediaRecorder; stop: () => void; level: AnalyserNode };

/** A sound from the microphone or a file: recorded with its level shown, heard, kept or discarded. */
export function SoundField({ sound, of = "part", onDone }: Props) {
  const [recording, setRecording] = useState<Recording | null>(null);
  const [taken, setTaken] = useState<{ blob: Blob; url: string } | null>(null);
  const [fault, setFault] = useState("");
  useEffect(() => () => void (taken && URL.revokeObjectURL(taken.url)), [taken]);
  useEffect(() => () => recording?.stop(), [recording]);

  const record = async () => {
    setFault("");
    try {
      const stream = await navigator.mediaDevices.getUserMedia({ audio: true });
      const context = new AudioContext();
      const level = context.createAnalyser();
      context.createMediaStreamSource(stream).connect(level);
      const recorder = new MediaRecorder(stream);
      const parts: Blob[] = [];
      recorder.ondataavailable = (e) => parts.push(e.data);
      recorder.onstop = () => {
        const blob = new Blob(parts, { type: recorder.mimeType });
        setTaken({ blob, url: URL.createObjectURL(blob) });
        setRecording(null);
      };
      const stop = () => {
        if (recorder.state !== "inactive") recorder.stop();
        stream.getTracks().forEach((track) => track.stop());
        void context.close().catch(() => {});
      };
      recorder.start();
      setRecording({ recorder, stop, level });
    } catch {
      setFault(t`Microphone access was blocked. Allow it for this page or choose a file.`);
    }
  };
  const keep = async (blob: Blob, name: string) => {
    try {
      onDone((await upload(blob, name)).id);
      setTaken(null);
    } catch (error) {
      setFault(problemOf(error).detail);
    }
  };
  const button = "h-7 px-2";
  return (
    <div className="col-span-full flex flex-wrap items-center gap-2" role="group" aria-label={words[of].sound}>
      {recording ? (
        <>
          <Button className={button} onClick={recording.stop}>
            <Square size={13} aria-hidden /> {t`Stop`}
          </Button>
          <Level of={recording.level} />
        </>
      ) : taken ? (
        <>
          <audio controls src={taken.url} className="h-7" aria-label={t`What was recorded`} />
          <Button kind="main" className={button} onClick={() => void keep(taken.blob, "Recording.webm")}>
            {t`Use recording`}
          </Button>
          <Button className={button} onClick={() => setTaken(null)}>
            {t`Discard`}
          </Button>
        </>
      ) : (
        <>
          <Button className={button} onClick={() => void record()}>
            <Mic size={14} aria-hidden /> {sound ? t`Record again` : words[of].record}
          </Button>
          <FilePick
            className={button}
            label={words[of].file}
            accept="audio/*"
            onFiles={([file]) => void keep(file!, file!.name)}
          >
            {t`Sound from a file…`}
          </FilePick>
          {sound && (
            <>
              <Button className={button} onClick={() => void new Audio(mediaURL(sound)).play()}>
                <Volume2 size={14} aria-hidden /> {t`Listen`}
              </Button>
              <Button kind="quiet" className={button} onClick={() => onDone("")}>
                {t`Remove sound`}
              </Button>
            </>
          )}
        </>
      )}
      {fault && <span className="text-ember">{fault}</span>}
    </div>
  );
}

/** How loud it is now. */
function Level({ of }: { of: AnalyserNode }) {
  const bar = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const values = new Uint8Array(of.fftSize);
    let frame = 0;
    const draw = () => {
      of.getByteTimeDomainData(values);
      const loud = values.reduce((most, v) => Math.max(most, Math.abs(v - 128)), 0) / 128;
      if (bar.current) bar.current.style.width = `${Math.round(100 * loud)}%`;
      frame = requestAnimationFrame(draw);
    };
    draw();
    return () => cancelAnimationFrame(frame);
  }, [of]);
  return (
    <span
      role="meter"
      aria-label={t`Level`}
      className="h-3 w-32 overflow-hidden rounded-sm border border-line bg-shade"
    >
      <span ref={bar} className="block h-full bg-teal" />
    </span>
  );
}
