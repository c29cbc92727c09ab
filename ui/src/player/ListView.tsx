import { useState, type ReactNode } from "react";
import { BookOpen, ChevronDown, ChevronUp, Volume2 } from "lucide-react";
import type { Act, Move, Scene, ScenePiece, SceneTarget, Standing } from "../api/types";
import { Button } from "../kit/Button";
import { canPlace } from "./boardHooks";
import { RichText } from "../board/RichText";
import { ToneMark } from "../board/ToneMark";
import { ListPicture, showsMore } from "./ListPicture";
import { useSound } from "./Sound";
import { useWords } from "../words/words";

type Props = {
  scene: Scene;
  standing: Standing;
  queue: Move[];
  act: (act: Act) => void;
  mediaURL: (id: string) => string;
  pointed: ReadonlySet<string>;
  reopens: (piece: string) => string | undefined;
  onReopen: (reply: string) => void;
  /** What is said stands first. */
  children: ReactNode;
};

/** The same sitting as a list: targets as headings, and for each piece a choice of where it goes. */
export function ListView(p: Props) {
  const { scene, standing, queue } = p;
  const w = useWords();
  const rank = (id: string) => (scene.order.includes(id) ? scene.order.indexOf(id) : scene.order.length);
  const targets = [...scene.targets].sort((a, b) => rank(a.id) - rank(b.id));
  // As the judge said last, and as moves under way mean it.
  const where = new Map<string, string>();
  for (const t of targets) for (const id of standing.targets[t.id] ?? []) where.set(id, t.id);
  for (const m of queue) {
    if (m.do === "place" && m.piece && m.target) where.set(m.piece, m.target);
    if (m.do === "lift" && m.piece) where.delete(m.piece);
  }
  const dealt = scene.pieces.slice(0, standing.dealt);
  const inside = (t: SceneTarget) => {
    const settled = (standing.targets[t.id] ?? []).filter((id) => where.get(id) === t.id);
    const coming = dealt.filter((x) => where.get(x.id) === t.id && !settled.includes(x.id)).map((x) => x.id);
    return [...settled, ...coming].flatMap((id) => scene.pieces.find((x) => x.id === id) ?? []);
  };
  const loose = dealt.filter((x) => !where.has(x.id));
  const texts = scene.scenery.filter((s) => s.rich.length > 0);
  const row = (x: ScenePiece, target?: SceneTarget, at = 0, of = 0) => (
    <PieceRow
      key={x.id}
      {...p}
      piece={x}
      showsRight={p.scene.showsRight}
      placing={canPlace(standing, queue)}
      targets={targets}
      target={target}
      at={at}
      of={of}
    />
  );
  const card = "rounded-(--radius) border border-line bg-paper p-3";
  return (
    <div className="mx-auto flex max-w-3xl flex-col gap-3 pb-6" data-list>
      <p className="text-slate">{w("listAbout")}</p>
      {p.children}
      {showsMore(scene) && <ListPicture scene={scene} targets={targets} mediaURL={p.mediaURL} />}
      {texts.length > 0 && (
        <div className={`${card} text-base leading-relaxed`}>
          {texts.map((s, i) => (
            <div key={i} className="not-last:mb-2">
              <RichText
                nodes={s.rich}
                word={(id) => {
                  const t = scene.targets.find((x) => x.id === id);
                  return t ? `[${inside(t)[0]?.spoken ?? t.spoken}]` : undefined;
                }}
              />
            </div>
          ))}
        </div>
      )}
      <section className={card} aria-label={w("tray")}>
        <h2 className="mb-1 text-base">{w("tray")}</h2>
        {loose.length === 0 && <p className="text-slate">{w("trayEmpty")}</p>}
        <ul>{loose.map((x) => row(x))}</ul>
      </section>
      {targets.map((t, i) => {
        const here = inside(t);
        return (
          <section
            key={t.id}
            className={`${card} ${p.pointed.has(t.id) ? "outline-3 outline-offset-2 outline-feather" : ""}`}
            aria-label={t.spoken}
          >
            <h2 className="mb-1 text-base">
              {showsMore(scene) && String(i + 1) !== t.spoken && (
                <span className="mr-2 rounded-sm bg-slate px-1.5 text-[13px] text-paper">{i + 1}</span>
              )}
              {t.spoken}
            </h2>
            {t.alt && <p className="text-slate">{t.alt}</p>}
            {here.length === 0 && <p className="text-slate">–</p>}
            <ol>{here.map((x, i) => row(x, t, i, here.length))}</ol>
          </section>
        );
      })}
    </div>
  );
}

type RowProps = Props & {
  piece: ScenePiece;
  showsRight: boolean;
  placing: boolean;
  targets: SceneTarget[];
  target?: SceneTarget;
  /** Its place in the target, and of how many. */
  at: number;
  of: number;
};

function PieceRow({
  piece,
  showsRight,
  targets,
  target,
  at,
  of,
  standing,
  placing,
  act,
  mediaURL,
  pointed,
  reopens,
  onReopen,
}: RowProps) {
  const w = useWords();
  const hear = useSound(mediaURL);
  const held = standing.held.includes(piece.id);
  const free = placing && !held;
  const right = standing.shown?.right.includes(piece.id);
  const wrong = standing.shown?.wrong.includes(piece.id);
  const again = reopens(piece.id);
  const tool =
    "grid size-8 place-items-center rounded-(--radius) border border-line text-slate hover:bg-shade disabled:opacity-40";
  const step = (by: number) => act({ do: "place", piece: piece.id, target: target!.id, index: at + by });
  return (
    <li
      className={`flex min-h-11 flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1.5 first:border-0 ${pointed.has(piece.id) ? "bg-feather-soft" : ""}`}
    >
      {piece.picture && (
        <img src={mediaURL(piece.picture)} alt="" className="size-10 rounded-sm bg-picture object-contain" />
      )}
      <span className="min-w-24 flex-1 font-medium">{piece.spoken}</span>
      {(right || (held && showsRight)) && !wrong && <ToneMark tone="right" label={w(held ? "isHeld" : "isRight")} />}
      {held && !showsRight && <span className="text-slate">{w("isHeld")}</span>}
      {wrong && <ToneMark tone="wrong" label={w("isWrong")} />}
      {piece.sound && (
        <button
          type="button"
          className={tool}
          aria-label={w("hear", { piece: piece.spoken })}
          onClick={() => hear(piece.sound)}
        >
          <Volume2 size={16} aria-hidden />
        </button>
      )}
      {again && (
        <button
          type="button"
          className={tool}
          aria-label={w("openAgain", { piece: piece.spoken })}
          onClick={() => onReopen(again)}
        >
          <BookOpen size={16} aria-hidden />
        </button>
      )}
      {target?.lane && of > 1 && (
        <>
          <button
            type="button"
            className={tool}
            disabled={!free || at === 0}
            aria-label={w("earlier", { piece: piece.spoken })}
            onClick={() => step(-1)}
          >
            <ChevronUp size={16} aria-hidden />
          </button>
          <button
            type="button"
            className={tool}
            disabled={!free || at === of - 1}
            aria-label={w("later", { piece: piece.spoken })}
            onClick={() => step(1)}
          >
            <ChevronDown size={16} aria-hidden />
          </button>
        </>
      )}
      <MoveTo key={target?.id ?? ""} piece={piece} targets={targets} target={target} free={free} act={act} />
    </li>
  );
}

type MoveToProps = Pick<RowProps, "piece" | "targets" | "target" | "act"> & { free: boolean };

/** Choosing and moving are two acts: whoever goes through the choices with the arrows moves nothing yet. */
function MoveTo({ piece, targets, target, free, act }: MoveToProps) {
  const w = useWords();
  const now = target?.id ?? "";
  const [to, setTo] = useState(now);
  const move = () =>
    to !== now && act(to ? { do: "place", piece: piece.id, target: to } : { do: "lift", piece: piece.id });
  return (
    <span className="flex items-center gap-1.5 max-sm:w-full">
      <select
        data-keep={`to ${piece.id}`}
        aria-label={w("moveTo", { piece: piece.spoken })}
        value={to}
        disabled={!free}
        onChange={(e) => setTo(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== "Enter") return;
          e.preventDefault();
          move();
        }}
        className="h-9 max-w-full min-w-36 rounded-(--radius) border border-edge bg-paper px-2 text-ink opacity-100 disabled:bg-shade max-sm:flex-1"
      >
        <option value="">{w("toTray")}</option>
        {targets.map((t) => (
          <option key={t.id} value={t.id}>
            {t.spoken}
          </option>
        ))}
      </select>
      <Button className="h-9" disabled={!free || to === now} onClick={move}>
        {w("move")}
        <span className="sr-only"> {piece.spoken}</span>
      </Button>
    </span>
  );
}
