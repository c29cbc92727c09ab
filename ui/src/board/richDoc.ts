import type { JSONContent } from "@tiptap/core";
import type { RichNode } from "../api/types";

// The tree of a text as the core reads it, and as the editor has it. Between the two
// nothing is decided: the grammar is the core's.

type Mark = NonNullable<JSONContent["marks"]>[number];
const marks: Record<string, string> = { strong: "bold", emphasis: "italic", link: "link" };
const kinds: Record<string, string> = { bold: "strong", italic: "emphasis", link: "link" };
const lists: Record<string, string> = { list: "bulletList", numbered: "orderedList" };

export function toDoc(nodes: RichNode[]): JSONContent {
  const paragraph = (children: RichNode[]): JSONContent => {
    const content = inline(children, []);
    return content.length > 0 ? { type: "paragraph", content } : { type: "paragraph" };
  };
  const content = nodes.map((n) =>
    lists[n.kind]
      ? {
          type: lists[n.kind],
          content: (n.children ?? []).map((e) => ({ type: "listItem", content: [paragraph(e.children ?? [])] })),
        }
      : paragraph(n.children ?? []),
  );
  return { type: "doc", content: content.length > 0 ? content : [{ type: "paragraph" }] };
}

function inline(nodes: RichNode[], within: Mark[]): JSONContent[] {
  return nodes.flatMap((n): JSONContent[] => {
    const type = marks[n.kind];
    if (type) {
      const mark = n.kind === "link" ? { type, attrs: { href: n.text } } : { type };
      return inline(n.children ?? [], [...within, mark]);
    }
    if (n.kind === "break") return [{ type: "hardBreak" }];
    if (n.kind === "gap") return [{ type: "gap", attrs: { target: n.text } }];
    return n.text ? [{ type: "text", text: n.text, ...(within.length > 0 ? { marks: within } : {}) }] : [];
  });
}

/** With gaps, words that were typed in double brackets are gaps too. */
export function fromDoc(doc: JSONContent, gaps = false): RichNode[] {
  return (doc.content ?? []).map((block): RichNode => {
    const kind = Object.keys(lists).find((k) => lists[k] === block.type);
    if (!kind) return { kind: "paragraph", children: nested(bracketed(block.content ?? [], gaps)) };
    const entries = (block.content ?? []).map((item) => ({
      kind: "entry",
      children: nested(
        bracketed(
          (item.content ?? []).flatMap((p) => p.content ?? []),
          gaps,
        ),
      ),
    }));
    return { kind, children: entries };
  });
}

const has = (n: JSONContent, mark: Mark) =>
  n.marks?.some((m) => m.type === mark.type && m.attrs?.href === mark.attrs?.href) ?? false;

const brackets = /\[\[([^[\]\n]{1,70})\]\]/;

function bracketed(words: JSONContent[], gaps: boolean): JSONContent[] {
  if (!gaps) return words;
  return words.flatMap((w) => {
    const parts = w.text?.split(brackets) ?? [];
    if (parts.length < 2) return [w];
    // Every second part is what stood in brackets.
    return parts.flatMap((text, i): JSONContent[] =>
      i % 2 === 1 ? [{ type: "gap", attrs: { target: text }, marks: w.marks }] : text ? [{ ...w, text }] : [],
    );
  });
}

/** Marks of each word as a tree: the one that goes on longest is the outermost. */
function nested(words: JSONContent[]): RichNode[] {
  const out: RichNode[] = [];
  for (let i = 0; i < words.length;) {
    const word = words[i]!;
    const reach = (mark: Mark) => {
      const end = words.findIndex((n, k) => k >= i && !has(n, mark));
      return (end < 0 ? words.length : end) - i;
    };
    const [mark] = [...(word.marks ?? [])].filter((m) => kinds[m.type]).sort((a, b) => reach(b) - reach(a));
    if (mark) {
      const n = reach(mark);
      const inside = words.slice(i, i + n).map((x) => ({ ...x, marks: x.marks?.filter((m) => m.type !== mark.type) }));
      const href = mark.attrs?.href as string | undefined;
      out.push({ kind: kinds[mark.type]!, ...(href ? { text: href } : {}), children: nested(inside) });
      i += n;
      continue;
    }
    if (word.type === "hardBreak") out.push({ kind: "break" });
    else if (word.type === "gap") out.push({ kind: "gap", text: word.attrs?.target as string });
    else out.push({ kind: "text", text: word.text ?? "" });
    i++;
  }
  return out;
}
