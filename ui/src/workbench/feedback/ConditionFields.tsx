import { t } from "@lingui/core/macro";
import type { Condition, Doc } from "../../api/types";
import { nameOf } from "../../document/parts";
import { useDraft } from "../model/draft";
import { numbered, solutionName } from "../model/key";
import { Choice, Several, Span, type Options, type RangeValue } from "../../kit/choices";

type Props = { condition: Condition; onChange: (c: Condition) => void };
const items = (doc: Doc): Options => doc.items.map((i) => [i.id, nameOf(i)]);
const targets = (doc: Doc): Options => doc.targets.map((target) => [target.id, numbered(doc, target.id)]);

/** The choices of one condition, as a sentence. */
export function ConditionFields({ condition: c, onChange }: Props) {
  const doc = useDraft((s) => s.doc);
  const counts: [keyof Condition & string, string, string][] = [];
  for (const [key, of, unit] of [
    ["rightCount", t`correct`, t`pieces`],
    ["wrongCount", t`wrong`, t`pieces`],
    ["missingCount", t`missing`, t`items`],
    ["homeCount", t`not placed`, "pieces"],
    ["percent", t`score`, "%"],
    ["attempt", t`attempt`, ""],
    ["left", t`attempts left`, ""],
  ] as const) {
    if (key in c) counts.push([key as keyof Condition & string, of, unit]);
  }
  if (counts[0]) {
    const [key, of, unit] = counts[0];
    const value = (c as unknown as Record<string, RangeValue>)[key]!;
    return <Span of={of} unit={unit} value={value} onChange={(r) => onChange({ [key]: r } as unknown as Condition)} />;
  }
  if ("outcome" in c) {
    return (
      <Choice
        label={t`Outcome`}
        value={c.outcome}
        options={[
          ["right", t`everything is correct`],
          ["part", t`some of it is correct`],
          ["wrong", t`nothing is correct`],
        ]}
        onChange={(v) => onChange({ outcome: v as typeof c.outcome })}
      />
    );
  }
  if ("result" in c) {
    return (
      <Choice
        label={t`Result`}
        value={c.result}
        options={[
          ["right", t`it is correct there`],
          ["wrong", t`it is wrong there`],
          ["refused", t`it is rejected`],
          ["kept", t`it was already there`],
        ]}
        onChange={(v) => onChange({ result: v as typeof c.result })}
      />
    );
  }
  if ("solution" in c) {
    return (
      <>
        {t`it is closest to`}
        <Choice
          label={t`Solution`}
          value={String(c.solution)}
          options={doc.key.solutions.map((_, k) => [String(k), solutionName(doc.key.solutions, k)])}
          onChange={(v) => onChange({ solution: Number(v) })}
        />
      </>
    );
  }
  if ("onto" in c) {
    return (
      <Several
        label={t`Placed in`}
        said={t`it is put into`}
        chosen={c.onto}
        options={targets(doc)}
        onChange={(onto) => onChange({ onto })}
      />
    );
  }
  if ("piece" in c) {
    const tags = [...new Set(doc.items.flatMap((i) => i.tags))];
    const { piece } = c;
    const chosen = [...piece.tags.map((tag) => `tag ${tag}`), ...piece.items.map((i) => `item ${i}`)];
    return (
      <Several
        label={t`Piece`}
        said={t`it is`}
        chosen={piece.all ? ["all"] : chosen}
        options={[
          ["all", t`any piece`],
          ...tags.map((tag): [string, string] => [`tag ${tag}`, t`tagged ${tag}`]),
          ...items(doc).map(([id, name]): [string, string] => [`item ${id}`, name]),
        ]}
        onChange={(list) =>
          onChange({
            piece: {
              all: list.includes("all") && !piece.all,
              items: list.flatMap((x) => (x.startsWith("item ") ? [x.slice(5)] : [])),
              tags: list.flatMap((x) => (x.startsWith("tag ") ? [x.slice(4)] : [])),
              except: piece.except,
            },
          })
        }
      />
    );
  }
  if ("item" in c) {
    const where = "in" in c ? `in ${c.in}` : c.is;
    return (
      <>
        <Choice label={t`Item`} value={c.item} options={items(doc)} onChange={(item) => onChange({ ...c, item })} />
        <Choice
          label={t`Item is`}
          value={where}
          options={[
            ["right", t`is correct`],
            ["wrong", t`is wrong`],
            ["home", t`is not placed`],
            ...targets(doc).map(([id, name]): [string, string] => [`in ${id}`, t`is in ${name}`]),
          ]}
          onChange={(v) =>
            onChange(
              v.startsWith("in ")
                ? { item: c.item, in: v.slice(3) }
                : { item: c.item, is: v as "right" | "wrong" | "home" },
            )
          }
        />
      </>
    );
  }
  if ("target" in c) {
    return (
      <>
        <Choice
          label={t`Target`}
          value={c.target}
          options={targets(doc)}
          onChange={(target) => onChange({ ...c, target })}
        />
        <Choice
          label={t`Target is`}
          value={c.is}
          options={[
            ["right", t`is correct`],
            ["part", t`is partly correct`],
            ["wrong", t`is all wrong`],
            ["empty", t`is empty`],
          ]}
          onChange={(v) => onChange({ target: c.target, is: v as typeof c.is })}
        />
      </>
    );
  }
  return null;
}
