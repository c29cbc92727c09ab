import type { Condition, Doc } from "../../api/types";
import { nameOf } from "../../document/parts";
import { useDraft } from "../model/draft";
import { numbered, solutionName } from "../model/key";
import { Choice, Several, Span, type Options, type RangeValue } from "../../kit/choices";

type Props = { condition: Condition; onChange: (c: Condition) => void };
const items = (doc: Doc): Options => doc.items.map((i) => [i.id, nameOf(i)]);
const targets = (doc: Doc): Options => doc.targets.map((t) => [t.id, numbered(doc, t.id)]);

/** The choices of one condition, as a sentence. */
export function ConditionFields({ condition: c, onChange }: Props) {
  const doc = useDraft((s) => s.doc);
  const counts: [keyof Condition & string, string, string][] = [];
  for (const [key, of, unit] of [
    ["rightCount", "correct", "pieces"],
    ["wrongCount", "wrong", "pieces"],
    ["missingCount", "missing", "items"],
    ["homeCount", "not placed", "pieces"],
    ["percent", "score", "%"],
    ["attempt", "attempt", ""],
    ["left", "attempts left", ""],
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
        label="Outcome"
        value={c.outcome}
        options={[
          ["right", "everything is correct"],
          ["part", "some of it is correct"],
          ["wrong", "nothing is correct"],
        ]}
        onChange={(v) => onChange({ outcome: v as typeof c.outcome })}
      />
    );
  }
  if ("result" in c) {
    return (
      <Choice
        label="Result"
        value={c.result}
        options={[
          ["right", "it is correct there"],
          ["wrong", "it is wrong there"],
          ["refused", "it is rejected"],
          ["kept", "it was already there"],
        ]}
        onChange={(v) => onChange({ result: v as typeof c.result })}
      />
    );
  }
  if ("solution" in c) {
    return (
      <>
        it is closest to
        <Choice
          label="Solution"
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
        label="Placed in"
        said="it is put into"
        chosen={c.onto}
        options={targets(doc)}
        onChange={(onto) => onChange({ onto })}
      />
    );
  }
  if ("piece" in c) {
    const tags = [...new Set(doc.items.flatMap((i) => i.tags))];
    const { piece } = c;
    const chosen = [...piece.tags.map((t) => `tag ${t}`), ...piece.items.map((i) => `item ${i}`)];
    return (
      <Several
        label="Piece"
        said="it is"
        chosen={piece.all ? ["all"] : chosen}
        options={[
          ["all", "any piece"],
          ...tags.map((t): [string, string] => [`tag ${t}`, `tagged ${t}`]),
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
        <Choice label="Item" value={c.item} options={items(doc)} onChange={(item) => onChange({ ...c, item })} />
        <Choice
          label="Item is"
          value={where}
          options={[
            ["right", "is correct"],
            ["wrong", "is wrong"],
            ["home", "is not placed"],
            ...targets(doc).map(([id, name]): [string, string] => [`in ${id}`, `is in ${name}`]),
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
          label="Target"
          value={c.target}
          options={targets(doc)}
          onChange={(target) => onChange({ ...c, target })}
        />
        <Choice
          label="Target is"
          value={c.is}
          options={[
            ["right", "is correct"],
            ["part", "is partly correct"],
            ["wrong", "is all wrong"],
            ["empty", "is empty"],
          ]}
          onChange={(v) => onChange({ target: c.target, is: v as typeof c.is })}
        />
      </>
    );
  }
  return null;
}
