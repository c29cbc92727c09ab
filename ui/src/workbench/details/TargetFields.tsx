import { t } from "@lingui/core/macro";
import type { Target } from "../../api/types";
import { setLabel } from "../model/changes";
import { useDraft, useDraftStore } from "../model/draft";
import { CheckField, ChoiceField, Field, Group, NumberField, TextField, common } from "../../kit/fields";
import type { Set } from "./Sheet";
import { Radio, RadioGroup } from "../../kit/Radios";

type Props = { targets: Target[]; set: Set };
type Arrange = Target["arrange"];

const anchors = [
  ["topLeft", t`top left`],
  ["top", t`top`],
  ["topRight", t`top right`],
  ["left", t`left`],
  ["centre", t`centre`],
  ["right", t`right`],
  ["bottomLeft", t`bottom left`],
  ["bottom", t`bottom`],
  ["bottomRight", t`bottom right`],
] as const;

/** What targets are, what they hold, and how pieces stand in them; the board shows it with sample pieces. */
export function TargetFields({ targets, set }: Props) {
  const one = <T,>(read: (target: Target) => T) => targets.map(read);
  const arrange = (says: string, apply: (a: Arrange) => void) =>
    set(says, ["targets"], (target) => {
      apply(target.arrange);
    });
  return (
    <>
      <Group title={t`Target`}>
        <TextField
          label={t`Label`}
          values={one((target) => target.label.text)}
          onDone={(text) => set(t`change labels`, ["targets"], (target) => setLabel(target, text))}
        />
        <ChoiceField
          label={t`Label position`}
          values={one((target) => target.label.side)}
          options={[
            ["above", t`above`],
            ["below", t`below`],
            ["left", t`at the left`],
            ["right", t`at the right`],
            ["inside", t`inside`],
          ]}
          onDone={(side) =>
            set(t`move labels`, ["targets"], (target) => (target.label.side = side as Target["label"]["side"]))
          }
        />
        <TextField
          label={t`Description of the spot`}
          wide
          values={one((target) => target.alt)}
          placeholder={t`For learners who can’t see it`}
          onDone={(text) => set(t`describe targets`, ["targets"], (target) => (target.alt = text.slice(0, 1000)))}
        />
        <ChoiceField
          label={t`Shape`}
          values={one((target) => target.shape)}
          options={[
            ["rect", t`rectangle`],
            ["ellipse", t`ellipse`],
            ...(targets.every((target) => target.shape === "polygon")
              ? [["polygon", t`polygon`] as [string, string]]
              : []),
          ]}
          onDone={(shape) =>
            set(t`change the shape`, ["targets"], (target) => {
              if (shape === "polygon") return;
              target.shape = shape as Target["shape"];
              target.points = [];
            })
          }
        />
        <ChoiceField
          label={t`Visible to learners`}
          values={one((target) => target.shows)}
          options={[
            ["always", t`always`],
            ["inHand", t`with a piece in hand`],
            ["never", t`never`],
          ]}
          onDone={(shows) =>
            set(t`show or hide from learners`, ["targets"], (target) => (target.shows = shows as Target["shows"]))
          }
        />
        <NumberField
          label={t`Capacity`}
          values={one((target) => target.holds)}
          low={1}
          high={999}
          whole
          empty={t`any number`}
          onDone={(n) =>
            set(t`change how many it holds`, ["targets"], (target) => {
              if (n === undefined) delete target.holds;
              else target.holds = n;
            })
          }
        />
        <ChoiceField
          label={t`When full`}
          values={one((target) => target.whenFull)}
          options={[
            ["refuse", t`reject`],
            ["oust", t`return the earlier piece`],
            ["trade", t`swap`],
          ]}
          onDone={(to) =>
            set(t`change what happens when full`, ["targets"], (target) => (target.whenFull = to as Target["whenFull"]))
          }
        />
        {targets.length === 1 && targets[0]!.shape === "polygon" && <CornersField target={targets[0]!} />}
        <CheckField
          label={t`Ordered`}
          values={one((target) => target.ordered)}
          onDone={(on) =>
            set(on ? t`make targets ordered` : t`make it unordered`, ["targets"], (target) => (target.ordered = on))
          }
        />
      </Group>
      <Group title={t`Piece layout`}>
        <ChoiceField
          label={t`Arrangement`}
          values={one((target) => target.arrange.as)}
          options={[
            ["", t`default`],
            ["grid", t`grid`],
            ["row", t`row`],
            ["column", t`column`],
            ["pile", t`pile`],
            ["ring", t`ring`],
            ["centre", t`Stacked in the centre`],
            ["asDropped", t`Where dropped`],
          ]}
          onDone={(as) =>
            arrange(t`change how pieces stand`, (a) => {
              if (as) a.as = as as Arrange["as"];
              else delete a.as;
            })
          }
        />
        <Anchor
          values={one((target) => target.arrange.anchor)}
          onDone={(to) => arrange(t`anchor pieces`, (a) => (a.anchor = to))}
        />
        <NumberField
          label={t`Gap`}
          values={one((target) => target.arrange.gap)}
          low={0}
          high={1000}
          onDone={(n) => arrange(t`change the gap`, (a) => (a.gap = n!))}
        />
        <NumberField
          label={t`Size of pieces, %`}
          values={one((target) => target.arrange.scale)}
          low={1}
          high={1000}
          whole
          onDone={(n) => arrange(t`change the size of placed pieces`, (a) => (a.scale = n!))}
        />
        <ChoiceField
          label={t`Placed pieces`}
          values={one((target) => (target.arrange.opacity === 0 ? "gone" : "seen"))}
          options={[
            ["seen", t`Stay visible`],
            ["gone", t`Vanish into it`],
          ]}
          onDone={(to) => arrange(t`change how placed pieces show`, (a) => (a.opacity = to === "gone" ? 0 : 100))}
        />
        {targets.some((target) => target.arrange.opacity !== 0) && (
          <NumberField
            label={t`Opacity of pieces, %`}
            values={one((target) => target.arrange.opacity)}
            low={1}
            high={100}
            whole
            onDone={(n) => arrange(t`change how placed pieces show`, (a) => (a.opacity = n!))}
          />
        )}
        {targets.some((target) => target.arrange.as === "pile") && (
          <NumberField
            label={t`Stack offset`}
            values={one((target) => target.arrange.step)}
            low={-1000}
            high={1000}
            onDone={(n) => arrange(t`change the stack offset`, (a) => (a.step = n!))}
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
      label={t`Corners (x,y …)`}
      wide
      values={[(target.points ?? []).map((p) => p!.join(",")).join(" ")]}
      onDone={(text) => {
        const points = text
          .trim()
          .split(/\s+/)
          .map((p) => p.split(",").map(Number) as [number, number]);
        void store.getState().edit(t`move corners`, {
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
    <Field label={t`Starting from`}>
      {(id) => (
        <RadioGroup
          id={id}
          label={t`Starting from`}
          value={value ?? ""}
          onPick={(a) => onDone(a as Arrange["anchor"])}
          className="grid w-max grid-cols-3 gap-px"
        >
          {anchors.map(([a, title]) => (
            <Radio
              key={a}
              value={a}
              title={title}
              tip={title}
              className="size-6 rounded-[2px] border border-edge bg-shade hover:bg-feather-soft has-checked:border-feather has-checked:bg-feather"
            />
          ))}
        </RadioGroup>
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
        label={t`Hit rule (all targets)`}
        values={[value]}
        options={[
          ["centre", t`with its middle`],
          ["touch", t`when it touches`],
          ["inside", t`wholly inside`],
          ["overlap", t`with a part of its area`],
        ]}
        onDone={(to) =>
          store.getState().change({
            says: t`change how exactly pieces must hit`,
            apply: (doc) => (doc.play.hit = to === "overlap" ? { overlap: 60 } : (to as "centre")),
          })
        }
      />
      {typeof hit !== "string" && (
        <NumberField
          label={t`Minimum overlap, %`}
          values={[hit.overlap]}
          low={1}
          high={100}
          whole
          onDone={(n) =>
            store.getState().change({
              says: t`change how exactly pieces must hit`,
              apply: (doc) => (doc.play.hit = { overlap: n! }),
            })
          }
        />
      )}
      <NumberField
        label={t`Catch distance (all targets)`}
        values={[reach]}
        low={0}
        high={1000}
        onDone={(n) =>
          store.getState().change({ says: t`change the catch distance`, apply: (doc) => (doc.play.reach = n!) })
        }
      />
    </>
  );
}
