import type { ReactNode } from "react";
import type { RichNode } from "../api/types";

/** The room of a gap, and what a screen reader says of it. */
export type GapRoom = { w: number; h: number; spoken?: string };
type Props = {
  nodes: RichNode[];
  /** The room that a gap takes in the text, by target; without it a gap is a blank line. */
  gap?: (target: string) => GapRoom | undefined;
  /** What stands in a gap in words, where the text is read and not placed into. */
  word?: (target: string) => string | undefined;
};

/** Draws the tree of a text: the core reads it, and knows no HTML. */
export function RichText({ nodes, gap, word }: Props) {
  return <>{nodes.map((n, i) => draw(n, i, gap, word))}</>;
}

function draw(n: RichNode, key: number, gap: Props["gap"], word: Props["word"]): ReactNode {
  const inside = () => n.children?.map((c, i) => draw(c, i, gap, word));
  switch (n.kind) {
    case "paragraph":
      return (
        <p key={key} className="not-last:mb-[0.6em]">
          {inside()}
        </p>
      );
    case "list":
      return (
        <ul key={key} className="list-disc pl-[1.3em] not-last:mb-[0.6em]">
          {inside()}
        </ul>
      );
    case "numbered":
      return (
        <ol key={key} className="list-decimal pl-[1.3em] not-last:mb-[0.6em]">
          {inside()}
        </ol>
      );
    case "entry":
      return <li key={key}>{inside()}</li>;
    case "emphasis":
      return <em key={key}>{inside()}</em>;
    case "strong":
      return <strong key={key}>{inside()}</strong>;
    case "link":
      return (
        <a key={key} href={n.text} target="_blank" rel="noreferrer" className="text-feather underline">
          {inside()}
        </a>
      );
    case "break":
      return <br key={key} />;
    case "gap": {
      const said = word?.(n.text ?? "");
      if (said) return <strong key={key}>{said}</strong>;
      return <Gap key={key} target={n.text ?? ""} size={gap?.(n.text ?? "")} />;
    }
    default:
      return n.text;
  }
}

/** Room in a line for a target, which stands over it. */
function Gap({ target, size }: { target: string; size: GapRoom | undefined }) {
  return (
    <span
      data-gap={target}
      className="relative mx-[2px] inline-block align-middle"
      style={{ width: size?.w ?? 80, height: size?.h ?? 24 }}
    >
      <span className="sr-only">[{size?.spoken ?? "…"}]</span>
    </span>
  );
}

/** The words alone, for where there is room for a line only. */
export function plainText(nodes: RichNode[]): string {
  return nodes
    .map((n) =>
      n.kind === "break" ? " " : n.kind === "gap" ? "…" : n.kind === "text" ? n.text : plainText(n.children ?? []),
    )
    .join("");
}
