import { useDeferredValue, useState } from "react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { t } from "@lingui/core/macro";
import { api, ask } from "../../api/client";
import type { Sign, Theme } from "../../api/types";
import { Button } from "../../kit/Button";
import { Dialog } from "../../kit/Dialog";
import { themed } from "../../board/looks";
import { PieceCard } from "../../board/PieceCard";
import { placed, TargetWell } from "../../board/TargetWell";
import { ChoiceField, Field, NumberField, TextField } from "../../kit/fields";
import { HexField } from "../../kit/HexField";
import { Radio, RadioGroup } from "../../kit/Radios";
import { useDraft, useDraftStore } from "../model/draft";
import { SignField } from "../model/SignField";

type Colour = keyof Theme["colors"];

const colours: [Colour, string][] = [
  ["board", t`Board`],
  ["ink", t`Text`],
  ["well", t`Inside of targets`],
  ["rim", t`Rim of targets`],
  ["card", t`Pieces`],
  ["edge", t`Edge of pieces`],
  ["accent", t`Selected, open`],
  ["right", t`Correct`],
  ["near", t`Nearly correct`],
  ["wrong", t`Incorrect`],
];

/** Colours, type, corners and the form of pieces: chosen for this board, changed, kept for the workspace. */
export function ThemeDialog() {
  const store = useDraftStore();
  const queries = useQueryClient();
  const theme = useDraft((s) => s.doc.board.theme);
  const [own, setOwn] = useState<string>(); // the kept theme that is being changed
  const themes = useQuery({ queryKey: ["themes"], queryFn: () => ask(api.GET("/api/themes")) });
  const asked = useDeferredValue(theme);
  const checked = useQuery({
    queryKey: ["theme", asked],
    enabled: !!asked,
    gcTime: 0,
    placeholderData: (before) => before,
    queryFn: () => ask(api.POST("/api/themes/check", { body: asked! })),
  });
  const close = () => store.setState({ asking: "" });
  const set = (says: string, to: Theme | undefined) =>
    store.getState().change({
      says,
      merge: `theme ${says}`,
      apply: (doc) => {
        if (to) doc.board.theme = to;
        else delete doc.board.theme;
      },
    });
  // Without a theme a board looks as the first one has it: what is changed makes a theme of that.
  const first = themes.data?.themes[0]?.theme;
  const shown = theme ?? (first && { ...first, name: "" });
  // Of the theme as it is when a change comes: a picture may have taken a while.
  const change = (says: string, part: Partial<Theme> | ((theme: Theme) => Partial<Theme>)) => {
    const now = store.getState().doc.board.theme ?? shown;
    if (now) set(says, { ...now, ...(typeof part === "function" ? part(now) : part) });
  };
  const weak = theme ? (checked.data?.pairs ?? []).filter((p) => !p.enough) : [];
  const keep = async (id?: string) => {
    const kept = await ask(api.PUT("/api/themes", { params: { query: id ? { id } : {} }, body: theme! }));
    setOwn(kept.id);
    await queries.invalidateQueries({ queryKey: ["themes"] });
  };
  const drop = async (id: string) => {
    await ask(api.DELETE("/api/themes/{id}", { params: { path: { id } } }));
    setOwn(undefined);
    await queries.invalidateQueries({ queryKey: ["themes"] });
  };
  return (
    <Dialog open wide onClose={close} title={t`Board theme`} about={t`The theme is copied into this activity.`}>
      <RadioGroup
        label={t`Themes`}
        value={theme ? JSON.stringify(theme) : "none"}
        onPick={(value) => {
          const theme = themes.data?.themes.find((x) => JSON.stringify(x.theme) === value);
          if (theme) setOwn(theme.id);
          set(theme ? t`choose the theme ${theme.theme.name}` : t`remove the theme`, theme?.theme);
        }}
        className="mb-4 flex gap-3 overflow-x-auto pb-1"
      >
        <Choice name={t`Default`} theme={undefined} />
        {themes.data?.themes.map((theme) => (
          <Choice key={theme.id ?? theme.theme.name} name={theme.theme.name || t`Unnamed`} theme={theme.theme} />
        ))}
      </RadioGroup>
      {shown && (
        <div className="grid gap-5 md:grid-cols-[1fr_16rem]">
          <div className="grid grid-cols-[repeat(auto-fill,minmax(118px,1fr))] content-start gap-3">
            <TextField label={t`Name`} values={[shown.name]} onDone={(name) => change(t`name the theme`, { name })} />
            <ChoiceField
              label={t`Typeface`}
              values={[shown.font]}
              options={[
                ["text", t`Plain, easily read`],
                ["heading", t`Headline`],
                ["serif", t`Serif`],
                ["fixed", t`Monospace`],
              ]}
              onDone={(font) => change(t`change the typeface`, { font: font as Theme["font"] })}
            />
            <NumberField
              label={t`Text size of pieces`}
              values={[shown.size]}
              low={8}
              high={48}
              onDone={(size) => change(t`change the text`, { size: size! })}
            />
            <NumberField
              label={t`Corner radius`}
              values={[shown.corner]}
              low={0}
              high={60}
              onDone={(corner) => change(t`change the corners`, { corner: corner! })}
            />
            <ChoiceField
              label={t`Shape of pieces`}
              values={[shown.piece]}
              options={[
                ["cut", t`Cut at a corner`],
                ["notch", t`Notch at the top`],
                ["round", t`One square corner`],
              ]}
              onDone={(piece) => change(t`change the shape of pieces`, { piece: piece as Theme["piece"] })}
            />
            {colours.map(([key, title]) => (
              <Field key={key} label={title}>
                {(id) => (
                  <HexField
                    id={id}
                    label={title}
                    value={shown.colors[key]}
                    onDone={(to) => change(t`change colours`, { colors: { ...shown.colors, [key]: to } })}
                  />
                )}
              </Field>
            ))}
            {(["right", "wrong"] as const).map((tone) => (
              <SignField
                key={tone}
                tone={tone}
                sign={shown.signs?.[tone]}
                onDone={(sign) =>
                  change(t`choose the sign of ${tone}`, (now) => ({ signs: withSign(now.signs, tone, sign) }))
                }
              />
            ))}
          </div>
          {theme && (
            <section aria-label={t`Contrast`} className="flex flex-col gap-2">
              <h3 className="font-semibold">{t`Contrast`}</h3>
              {weak.length === 0 ? (
                <p className="text-teal">{t`All contrasts are sufficient.`}</p>
              ) : (
                <ul className="flex flex-col gap-1">
                  {weak.map((p) => (
                    <li key={p.over + p.under} className="text-ember">
                      {t`${p.meaning}: ${p.ratio}:1, needs ${p.needed}:1`}
                    </li>
                  ))}
                </ul>
              )}
              <div className="mt-auto flex flex-col gap-2">
                {own && <Button onClick={() => void keep(own)}>{t`Update workspace theme`}</Button>}
                <Button onClick={() => void keep()}>{t`Save as workspace theme`}</Button>
                {own && (
                  <Button kind="quiet" onClick={() => void drop(own)}>
                    {t`Delete workspace theme`}
                  </Button>
                )}
              </div>
            </section>
          )}
        </div>
      )}
      <div className="mt-4 flex justify-end">
        <Button kind="main" onClick={close}>
          {t`Done`}
        </Button>
      </div>
    </Dialog>
  );
}

/** A theme’s own signs with one changed; without any there is no list of them. */
function withSign(signs: Theme["signs"], tone: "right" | "wrong", sign: Sign | undefined): Theme["signs"] {
  const out = { ...signs, [tone]: sign };
  if (!sign) delete out[tone];
  return Object.keys(out).length > 0 ? out : undefined;
}

type ChoiceProps = { name: string; theme: Theme | undefined };

/** A theme as it is: a target, a piece at rest, a right one. */
function Choice({ name, theme }: ChoiceProps) {
  const well = { x: 8, y: 14, w: 124, h: 50 };
  return (
    <Radio
      value={theme ? JSON.stringify(theme) : "none"}
      className="shrink-0 rounded-(--radius) border border-line p-1 has-checked:border-feather has-checked:bg-feather-soft"
    >
      <span
        aria-hidden
        data-form={theme?.piece}
        className="relative block h-20 w-36 overflow-hidden rounded-(--radius) bg-paper"
        style={{ "--s": 1, ...themed(theme) } as React.CSSProperties}
      >
        <span style={placed(well)}>
          <TargetWell shape="rect" frame={well} label="" side="above" />
        </span>
        <span className="absolute top-5 left-4">
          <PieceCard text={t`Bell`} w={54} h={38} />
        </span>
        <span className="absolute top-5 left-[76px]">
          <PieceCard text={t`Hub`} w={50} h={38} mark="right" />
        </span>
      </span>
      <span className="block pt-1 text-center text-[13px]">{name}</span>
    </Radio>
  );
}
