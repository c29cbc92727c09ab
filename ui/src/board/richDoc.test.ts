import { equal, test } from "../testing";
import { fromDoc, toDoc } from "./richDoc";

const text = (t: string) => ({ kind: "text", text: t });

test("rich text: the tree of the core and that of the editor say the same", () => {
  const nodes = [
    {
      kind: "paragraph",
      children: [
        text("The "),
        { kind: "emphasis", children: [text("long "), { kind: "strong", children: [text("chain")] }, text(" runs")] },
        { kind: "break" },
        { kind: "link", text: "https://example.org", children: [{ kind: "strong", children: [text("more")] }] },
        { kind: "gap", text: "first" },
      ],
    },
    { kind: "list", children: [{ kind: "entry", children: [text("oil")] }] },
    { kind: "numbered", children: [{ kind: "entry", children: [text("wipe")] }] },
  ];
  equal(fromDoc(toDoc(nodes)), nodes);
});

test("rich text: nothing is one empty paragraph", () => {
  equal(toDoc([]), { type: "doc", content: [{ type: "paragraph" }] });
  equal(fromDoc(toDoc([])), [{ kind: "paragraph", children: [] }]);
});

test("rich text: what is typed in double brackets is a gap, where there can be gaps", () => {
  const doc = {
    type: "doc",
    content: [{ type: "paragraph", content: [{ type: "text", text: "Oil the [[chain]] [now]." }] }],
  };
  equal(fromDoc(doc, true), [
    { kind: "paragraph", children: [text("Oil the "), { kind: "gap", text: "chain" }, text(" [now].")] },
  ]);
  equal(fromDoc(doc), [{ kind: "paragraph", children: [text("Oil the [[chain]] [now].")] }]);
});
