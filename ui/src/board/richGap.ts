import { mergeAttributes, Node, type Editor } from "@tiptap/core";

/** A gap in a text being written: a chip that says what its target is called, or the words that will be its piece. */
export const Gap = Node.create<{ nameOf: (target: string) => string }>({
  name: "gap",
  group: "inline",
  inline: true,
  atom: true,
  addOptions: () => ({ nameOf: (target) => target }),
  addAttributes: () => ({
    target: {
      parseHTML: (e: HTMLElement) => e.dataset.richGap,
      renderHTML: (attrs: Record<string, unknown>) => ({ "data-rich-gap": attrs.target }),
    },
  }),
  parseHTML: () => [{ tag: "span[data-rich-gap]" }],
  renderHTML({ node, HTMLAttributes }) {
    return [
      "span",
      mergeAttributes(HTMLAttributes, { class: "rich-gap" }),
      this.options.nameOf(node.attrs.target as string),
    ];
  },
  renderText: ({ node }) => `[[${node.attrs.target as string}]]`,
});

const wordBefore = /[\p{L}\p{N}-]*$/u;
const wordAfter = /^[\p{L}\p{N}-]*/u;

/** Makes a gap of what is selected; of the word at the cursor, where nothing is. */
export function makeGap(editor: Editor) {
  const { $from, $to } = editor.state.selection;
  let { from, to } = editor.state.selection;
  if (from === to) {
    // Each node that is no text counts for one sign.
    const { parent, parentOffset: at } = $from;
    from -= wordBefore.exec(parent.textBetween(0, at, undefined, "\ufffc"))![0].length;
    to += wordAfter.exec(parent.textBetween(at, parent.content.size, undefined, "\ufffc"))![0].length;
  }
  if (!$from.sameParent($to)) return;
  const chosen = editor.state.doc.textBetween(from, to, undefined, "\ufffc");
  const words = chosen.trim();
  if (!words || words.length > 70 || /[[\]\ufffc]/.test(words)) return;
  from += chosen.length - chosen.trimStart().length;
  editor
    .chain()
    .focus()
    .insertContentAt({ from, to: from + words.length }, { type: "gap", attrs: { target: words } })
    .run();
}
