import { RadioGroup } from "radix-ui";
import type { Target } from "../../api/types";
import { setLabel } from "../model/changes";
import { useDraft, useDraftStore } from "../model/draft";
import { CheckField, ChoiceField, Field, Group, NumberField, TextField, common } from "../../kit/fields";
import type { Set } from "./Sheet";
import { named } from "../../kit/tip";

type Props = { targets: Target[]; set: Set };
type Arrange = Target["arrange"];

const anchors = [
  ["topLeft", "top left"],
  ["top", "top"],
  ["topRight", "top right"],
  ["left", "left"],
  ["centre", "centre"],
  ["right", "right"],
  ["bottomLeft", "bottom left"],
  ["bottom", "bottom"],
  ["bottomRight", "bottom right"],
] as const;

/** What targets are, what they hold, and how pieces stand in them; the board shows it with sample pieces. */
export function TargetFields({ targets, set }: Props) {
  const one = <T,>(read: (t: Target) => T) => targets.map(read);
  const arrange = (says: string, apply: (a: Arrange) => void) =>
    set(says, ["targets"], (t) => {
      apply(t.arrange);
    });
  return (
    <>
      <Group title="Target">
        <TextField
          label="Label"
          values={one((t) => t.label.text)}
          onDone={(text) => set("change labels", ["targets"], (t) => setLabel(t, text))}
        />
        <ChoiceField
          label="Label position"
          values={one((t) => t.label.side)}
          options={[
            ["above", "above"],
            ["below", "below"],
            ["left", "at the left"],
            ["right", "at the right"],
            ["inside", "inside"],
          ]}
          onDone={(side) => set("move labels", ["targets"], (t) => (t.label.side = side as Target["label"]["side"]))}
        />
        <TextField
          label="Description of the spot"
          wide
          values={one((t) => t.alt)}
          placeholder="For learners who can’t see it"
          onDone={(text) => set("describe targets", ["targets"], (t) => (t.alt = text.slice(0, 1000)))}
        />
        <ChoiceField
          label="Shape"
          values={one((t) => t.shape)}
          options={[
            ["rect", "rectangle"],
            ["ellipse", "ellipse"],
            ...(targets.every((t) => t.shape === "polygon") ? [["polygon", "polygon"] as [string, string]] : []),
          ]}
          onDone={(shape) =>
            set("change the shape", ["targets"], (t) => {
              if (shape === "polygon") return;
              t.shape = shape as Target["shape"];
              t.points = [];
            })
          }
        />
        <ChoiceField
          label="Visible to learners"
          values={one((t) => t.shows)}
          options={[
            ["always", "always"],
            ["inHand", "with a piece in hand"],
            ["never", "never"],
          ]}
          onDone={(shows) =>
            set("show or hide from learners", ["targets"], (t) => (t.shows = shows as Target["shows"]))
          }
        />
        <NumberField
          label="Capacity"
          values={one((t) => t.holds)}
          low={1}
          high={999}
          whole
          empty="any number"
          onDone={(n) =>
            set("change how many it holds", ["targets"], (t) => {
              if (n === undefined) delete t.holds;
              else t.holds = n;
            })
          }
        />
        <ChoiceField
          label="When full"
          values={one((t) => t.whenFull)}
          options={[
            ["refuse", "reject"],
            ["oust", "return the earlier piece"],
            ["trade", "trade places"],
          ]}
          onDone={(to) =>
            set("change what happens when full", ["targets"], (t) => (t.whenFull = to as Target["whenFull"]))
          }
        />
        {targets.length === 1 && targets[0]!.shape === "polygon" && <CornersField target={targets[0]!} />}
        <CheckField
          label="Ordered"
          values={one((t) => t.ordered)}
          onDone={(on) => set(on ? "make targets ordered" : "make it unordered", ["targets"], (t) => (t.ordered = on))}
        />
      </Group>
      <Group title="Piece layout">
        <ChoiceField
          label="Arrangement"
          values={one((t) => t.arrange.as)}
          options={[
            ["", "default"],
            ["grid", "grid"],
            ["row", "row"],
            ["column", "column"],
            ["pile", "pile"],
            ["ring", "ring"],
            ["centre", "Stacked in the centre"],
            ["asDropped", "Where dropped"],
          ]}
          onDone={(as) =>
            arrange("change how pieces stand", (a) => {
              if (as) a.as = as as Arrange["as"];
              else delete a.as;
            })
          }
        />
        <Anchor
          values={one((t) => t.arrange.anchor)}
          onDone={(to) => arrange("anchor pieces", (a) => (a.anchor = to))}
        />
        <NumberField
          label="Gap"
          values={one((t) => t.arrange.gap)}
          low={0}
          high={1000}
          onDone={(n) => arrange("change the gap", (a) => (a.gap = n!))}
        />
        <NumberField
          label="Size of pieces, %"
          values={one((t) => t.arrange.scale)}
          low={1}
          high={1000}
          whole
          onDone={(n) => arrange("change the size of placed pieces", (a) => (a.scale = n!))}
        />
        <ChoiceField
          label="Placed pieces"
          values={one((t) => (t.arrange.opacity === 0 ? "gone" : "seen"))}
          options={[
            ["seen", "Stay visible"],
            ["gone", "Vanish into it"],
          ]}
          onDone={(to) => arrange("change how placed pieces show", (a) => (a.opacity = to === "gone" ? 0 : 100))}
        />
        {targets.some((t) => t.arrange.opacity !== 0) && (
          <NumberField
            label="Opacity of pieces, %"
            values={one((t) => t.arrange.opacity)}
            low={1}
            high={100}
            whole
            onDone={(n) => arrange("change how placed pieces show", (a) => (a.opacity = n!))}
          />
        )}
        {targets.some((t) => t.arrange.as === "pile") && (
          <NumberField
            label="Stack offset"
            values={one((t) => t.arrange.step)}
            low={-1000}
            high={1000}
            onDone={(n) => arrange("change the stack offset", (a) => (a.step = n!))}
          />
        )}
        <Hit />
      </Group>
    </>
  );
}

/** A polygon's corners as numbers. */
function CornersField({ target }: { target: Target }) {
  const store = useDraftStore();
  return (
    <TextField
      label="Corners (x,y …)"
      wide
      values={[(target.points ?? []).map((p) => p!.join(",")).join(" ")]}
      onDone={(text) => {
        const points = text
          .trim()
          .split(/\s+/)
          .map((p) => p.split(",").map(Number) as [number, number]);
        void store.getState().edit("move corners", {
          act: "reshape",
          parts: { items: [], targets: [target.id], scenery: [] },
          drawing: { what: "polygon", points },
        });
      }}
    />
  );
}

/** One of nine spots at which the pieces begin. */
function Anchor({ values, onDone }: { values: Arrange["anchor"][]; onDone: (to: Arrange["anchor"]) => void }) {
  const value = common(values);
  return (
    <Field label="Starting from">
      {(id) => (
        <RadioGroup.Root
          id={id}
          aria-label="Starting from"
          value={value ?? ""}
          onValueChange={(a) => onDone(a as Arrange["anchor"])}
          className="grid w-max grid-cols-3 gap-px"
        >
          {anchors.map(([a, title]) => (
            <RadioGroup.Item
              key={a}
              value={a}
              {...named(title)}
              className="size-6 rounded-[2px] border border-edge bg-shade hover:bg-feather-soft data-[state=checked]:border-feather data-[state=checked]:bg-feather"
            />
          ))}
        </RadioGroup.Root>
      )}
    </Field>
  );
}

/** How exactly a piece must hit: one rule for all targets of the activity. */
function Hit() {
  const store = useDraftStore();
  const { hit, reach } = useDraft((s) => s.doc.play);
  const value = typeof hit === "string" ? hit : "overlap";
  return (
    <>
      <ChoiceField
        label="Hit rule (all targets)"
        values={[value]}
        options={[
          ["centre", "with its middle"],
          ["touch", "when it touches"],
          ["inside", "wholly inside"],
          ["overlap", "with a part of its area"],
        ]}
        onDone={(to) =>
          store.getState().change({
            says: "change how exactly pieces must hit",
            apply: (doc) => (doc.play.hit = to === "overlap" ? { overlap: 60 } : (to as "centre")),
          })
        }
      />
      {typeof hit !== "string" && (
        <NumberField
          label="Minimum overlap, %"
          values={[hit.overlap]}
          low={1}
          high={100}
          whole
          onDone={(n) =>
            store.getState().change({
              says: "change how exactly pieces must hit",
              apply: (doc) => (doc.play.hit = { overlap: n! }),
            })
          }
        />
      )}
      <NumberField
        label="Catch distance (all targets)"
        values={[reach]}
        low={0}
        high={1000}
        onDone={(n) =>
          store.getState().change({ says: "change the catch distance", apply: (doc) => (doc.play.reach = n!) })
        }
      />
    </>
  );
}
