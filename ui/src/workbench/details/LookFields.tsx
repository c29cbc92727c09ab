import { useState } from "react";
import { t } from "@lingui/core/macro";
import type { Item, Look, Style, Target } from "../../api/types";
import { mediaURL } from "../../board/mediaURL";
import { PieceCard } from "../../board/PieceCard";
import { placed, TargetWell } from "../../board/TargetWell";
import { themed } from "../../board/looks";
import { useDraft } from "../model/draft";
import { ColourField } from "./ColourField";
import { CheckField, ChoiceField, Group, NumberField, TextField } from "../../kit/fields";
import { Radio, RadioGroup } from "../../kit/Radios";
import { lookOf, points, setLook, setStyle, styleOf, type Dressed } from "../model/styles";
import { SignField } from "../model/SignField";
import type { Chosen, Set } from "./Sheet";

/**
 * How parts look: from the theme, and where they depart from it. The strip shows the
 * first selected part at every point of its way; what is set is set for all.
 */
export function LookFields({ chosen, set }: { chosen: Chosen; set: Set }) {
  const { items, targets, scenery } = chosen;
  const theme = useDraft((s) => s.doc.board.theme);
  const kind = items.length > 0 ? "item" : targets.length > 0 ? "target" : undefined;
  const [at, setAt] = useState("rest");
  const parts: Dressed[] = items.length > 0 ? items : targets.length > 0 ? targets : scenery;
  const list = items.length > 0 ? "items" : targets.length > 0 ? "targets" : "scenery";
  const known = kind ? points[kind] : [];
  const style = <T,>(read: (s: Style | undefined) => T) => parts.map((p) => read(styleOf(p, at)));
  const look = <T,>(read: (l: Look | undefined) => T) => parts.map((p) => read(lookOf(p, at)));
  const dress = (says: string, apply: (s: Style) => void) => set(says, [list], (p) => setStyle(p, at, apply));
  const show = (says: string, apply: (l: Look) => void) => set(says, [list], (p) => setLook(p, at, apply));
  const edge = (apply: (e: NonNullable<Style["edge"]>) => void) =>
    dress(t`change borders`, (s) => {
      s.edge ??= { color: "", dash: 0 };
      apply(s.edge);
    });
  const text = (apply: (target: NonNullable<Style["text"]>) => void) =>
    dress(t`change the alignment of text`, (s) => {
      s.text ??= { color: "" };
      apply(s.text);
    });
  const pictures = items.length > 0 || scenery.some((s) => s.type === "picture");
  const first = items[0] ?? targets[0];
  return (
    <>
      {first && kind && (
        <section aria-label={t`Looks`} className="border-b border-line px-4 py-2">
          <h3 className="mb-1 text-[13px] font-semibold">{t`Looks`}</h3>
          <RadioGroup
            label={t`State`}
            value={at}
            onPick={setAt}
            className="flex flex-wrap gap-1.5"
            style={themed(theme)}
            data-form={theme?.piece}
          >
            {known.map(([point, title]) => (
              <Radio
                key={point}
                value={point}
                title={lookOf(first, point) ? t`${title}, custom` : title}
                className="flex w-[84px] flex-col items-center gap-1 rounded-(--radius) border border-line bg-paper p-1 text-[11px] leading-tight text-slate has-checked:border-feather has-checked:bg-feather-soft"
              >
                <Sample part={first} point={point} />
                <span>{title}</span>
                {/* Its room is kept, so that nothing moves away from under the pointer. */}
                <span className={`mt-auto text-feather ${lookOf(first, point) ? "" : "invisible"}`}>{t`custom`}</span>
              </Radio>
            ))}
          </RadioGroup>
        </section>
      )}
      <Group title={kind ? t`Looks: ${known.find(([p]) => p === at)![1]}` : t`Looks`}>
        <ColourField
          label={t`Fill`}
          values={style((s) => s?.fill)}
          onDone={(c) => dress(t`Fill`, (s) => (s.fill = c))}
        />
        <ColourField
          label={t`Border colour`}
          values={style((s) => s?.edge?.color)}
          onDone={(c) => edge((e) => (e.color = c))}
        />
        <NumberField
          label={t`Border width`}
          values={style((s) => s?.edge?.width)}
          low={0}
          high={100}
          empty={t`theme`}
          onDone={(n) => edge((e) => (n === undefined ? delete e.width : (e.width = n)))}
        />
        <NumberField
          label={t`Border dashes`}
          values={style((s) => s?.edge?.dash ?? 0)}
          low={0}
          high={100}
          onDone={(n) => edge((e) => (e.dash = n ?? 0))}
        />
        <NumberField
          label={t`Corner radius`}
          values={style((s) => s?.corner)}
          low={0}
          high={1000}
          empty={t`theme`}
          onDone={(n) => dress(t`change corners`, (s) => (n === undefined ? delete s.corner : (s.corner = n)))}
        />
        <NumberField
          label={t`Text size`}
          values={style((s) => s?.text?.size)}
          low={1}
          high={400}
          empty={t`theme`}
          onDone={(n) => text((target) => (n === undefined ? delete target.size : (target.size = n)))}
        />
        <ChoiceField
          label={t`Text weight`}
          values={style((s) => (s?.text?.weight ? String(s.text.weight) : ""))}
          options={[
            ["", t`Theme`],
            ["400", t`Regular`],
            ["600", t`Semibold`],
            ["800", t`Bold`],
          ]}
          onDone={(w) => text((target) => (w ? (target.weight = Number(w)) : delete target.weight))}
        />
        <ChoiceField
          label={t`Text alignment`}
          values={style((s) => s?.text?.align)}
          options={[
            ["", t`Theme`],
            ["left", t`Left`],
            ["centre", t`Centre`],
            ["right", t`Right`],
          ]}
          onDone={(a) => text((target) => (a ? (target.align = a as "left") : delete target.align))}
        />
        <ColourField
          label={t`Text colour`}
          values={style((s) => s?.text?.color)}
          onDone={(c) => text((target) => (target.color = c))}
        />
        {pictures && (
          <>
            <CheckField
              label={t`No card`}
              values={style((s) => s?.card === false)}
              onDone={(on) => dress(t`remove the card`, (s) => (s.card = !on))}
            />
            <CheckField
              label={t`Round crop`}
              values={style((s) => s?.crop === "round")}
              onDone={(on) => dress("crop", (s) => (s.crop = on ? "round" : "none"))}
            />
          </>
        )}
        <CheckField
          label={t`Shadow`}
          values={style((s) => s?.shadow ?? false)}
          onDone={(on) => dress(t`change the shadow`, (s) => (s.shadow = on))}
        />
        {items.length > 0 && (
          <ChoiceField
            label={t`Shape`}
            values={style((s) => s?.shape)}
            options={[
              ["", t`Theme’s card`],
              ["rect", t`Rectangle`],
              ["ellipse", t`Ellipse`],
              ...(style((s) => s?.shape).includes("polygon") ? [["polygon", t`As drawn`] as [string, string]] : []),
            ]}
            onDone={(to) =>
              dress(t`change the shape of pieces`, (s) => {
                if (to) s.shape = to as Style["shape"];
                else delete s.shape;
                if (to !== "polygon") delete s.points;
              })
            }
          />
        )}
        {kind && (at === "right" || at === "wrong") && (
          <SignField
            tone={at}
            sign={look((l) => l?.sign)[0]}
            onDone={(sign) => show(t`choose the sign of ${at}`, (l) => (l.sign = sign))}
          />
        )}
        {kind && (
          <>
            <TextField
              label={t`Different text`}
              values={look((l) => l?.text ?? "")}
              placeholder={t`the same`}
              onDone={(text) => show(t`show another text`, (l) => (l.text = text || undefined))}
            />
            <NumberField
              label={t`Size, %`}
              values={look((l) => l?.scale)}
              low={1}
              high={1000}
              whole
              empty="100"
              onDone={(n) => show(t`change the size`, (l) => (l.scale = n))}
            />
            <NumberField
              label={t`Opacity, %`}
              values={look((l) => l?.opacity)}
              low={0}
              high={100}
              whole
              empty="100"
              onDone={(n) => show(t`change the opacity`, (l) => (l.opacity = n))}
            />
            <ChoiceField
              label={t`Animation`}
              values={look((l) => l?.motion)}
              options={[
                ["", t`None`],
                ["settle", t`Bounce`],
                ["turn", t`Turn`],
                ["fade", t`Fade`],
              ]}
              onDone={(m) => show(t`change the motion`, (l) => (l.motion = (m || undefined) as Look["motion"]))}
            />
          </>
        )}
        <button
          type="button"
          className="self-end text-left text-feather underline"
          onClick={() =>
            set(t`reset to the theme`, [list], (p) => {
              if ("type" in p) delete p.style;
              else setLook(p, at, (l) => Object.keys(l).forEach((k) => delete l[k as keyof Look]));
            })
          }
        >
          {t`Reset to theme`}
        </button>
      </Group>
    </>
  );
}

/** A part at a point of its way, small, as the player draws it. */
function Sample({ part, point }: { part: Item | Target; point: string }) {
  const looks = useDraft((s) => s.known?.looks["size" in part ? "items" : "targets"][part.id]);
  const look = looks?.[point] ?? looks?.rest;
  if ("size" in part) {
    const scale = Math.min(0.6, 66 / part.size.w, 44 / part.size.h);
    return (
      <span style={{ "--s": scale } as React.CSSProperties} className="grid h-12 place-items-center" aria-hidden>
        <PieceCard
          text={part.text}
          picture={part.picture && mediaURL(part.picture)}
          w={part.size.w}
          h={part.size.h}
          mark={point === "right" || point === "wrong" ? point : point === "heldInPlace" ? "held" : "none"}
          lifted={point === "inHand" || point.startsWith("over")}
          look={look}
          mediaURL={mediaURL}
        />
      </span>
    );
  }
  const scale = Math.min(0.5, 66 / part.frame.w, 40 / part.frame.h);
  return (
    <span style={{ "--s": scale } as React.CSSProperties} className="grid h-12 w-full place-items-center" aria-hidden>
      <span className="relative" style={{ ...placed({ ...part.frame, x: 0, y: 0 }), position: "relative" }}>
        <TargetWell
          shape={part.shape}
          points={part.points}
          frame={part.frame}
          label=""
          side={part.label.side}
          state={
            point === "overOpen" || point === "overClosed"
              ? "over"
              : point === "beckoning"
                ? "open"
                : point === "right" || point === "wrong"
                  ? point
                  : "rest"
          }
          look={look && { ...look, text: "" }}
          mediaURL={mediaURL}
        />
      </span>
    </span>
  );
}
