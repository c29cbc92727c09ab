import type { Scene, Standing } from "../api/types";
import { equal, test } from "../testing";
import { wordsFor } from "../words/words";
import { appearance } from "./appearance";

const looks = Object.fromEntries(
  ["rest", "inHand", "overOpen", "overClosed", "placed", "heldInPlace", "right", "wrong", "part", "beckoning"].map(
    (at) => [at, at],
  ),
);
const scene = {
  pieces: ["Bell", "Hub"].map((spoken) => ({ id: spoken.toLowerCase(), spoken, looks })),
  targets: ["Brakes", "Wheels"].map((spoken, i) => ({
    id: spoken.toLowerCase(),
    spoken,
    looks,
    opacity: 100 - 50 * i,
  })),
  showsRight: true,
} as unknown as Scene;
const [bell, hub] = scene.pieces as [Scene["pieces"][0], Scene["pieces"][0]];
const [brakes, wheels] = scene.targets as [Scene["targets"][0], Scene["targets"][0]];

/** The hub stands in the wheels. */
const standing = { targets: { wheels: ["hub"] }, stands: { hub: {} }, held: [] } as unknown as Standing;
const shown = (part: object): Standing => ({ ...standing, ...part });
const of = (part: Partial<Parameters<typeof appearance>[0]> = {}) =>
  appearance({ words: wordsFor("en"), scene, standing, hand: null, over: null, ...part });

test("what stands on a board is called by what it is and where it is", () => {
  equal(
    [of().pieceName(bell), of().pieceName(hub), of().targetName(brakes), of().targetName(wheels)],
    ["Bell, not placed", "Hub, in Wheels", "Brakes, empty", "Wheels, holds Hub"],
  );
  const judged = of({ standing: shown({ shown: { right: ["hub"], wrong: ["bell"] }, held: ["hub"] }) });
  equal([judged.pieceName(bell), judged.pieceName(hub)], ["Bell, not placed, not correct", "Hub, in Wheels, correct"]);
  equal(of({ hand: { piece: "bell", dragged: false } }).pieceName(bell), "Bell, not placed, in hand");
});

test("what was judged goes before what is held, and that before what is in hand", () => {
  const held = { held: ["hub"] };
  const inHand = { piece: "hub", dragged: false };
  equal(of().pieceLook(hub), "placed");
  equal(of({ hand: inHand }).pieceLook(hub), "inHand");
  equal(of({ hand: inHand, standing: shown(held) }).pieceLook(hub), "heldInPlace");
  equal(of({ standing: shown({ ...held, shown: { right: [], wrong: ["hub"] } }) }).pieceLook(hub), "wrong");
  // Where nothing is to be shown as correct, what is held looks like any that was placed.
  const silent = { scene: { ...scene, showsRight: false }, standing: shown(held) };
  equal([of(silent).mark("hub"), of(silent).pieceLook(hub)], ["fixed", "placed"]);
});

test("targets tell of the piece in hand no more than they are asked to", () => {
  const dragged = { hand: { piece: "bell", dragged: true } };
  equal([of(dragged).targetState("brakes"), of(dragged).targetLook(brakes)], ["rest", "rest"]);
  equal(of({ hand: { piece: "bell", dragged: false } }).targetState("brakes"), "open");
  equal(
    [of({ ...dragged, over: "brakes" }).targetState("brakes"), of({ ...dragged, over: "brakes" }).targetLook(brakes)],
    ["over", "overOpen"],
  );
  const told = of({ ...dragged, over: "brakes", opens: new Set(["wheels"]), beckons: new Set(["wheels"]) });
  equal([told.targetLook(brakes), told.handLook(bell)], ["overClosed", "overClosed"]);
  equal([told.targetState("wheels"), told.targetLook(wheels)], ["open", "beckoning"]);
});

test("what is pointed out stands out, and the rest fades where it is to", () => {
  const pointing = of({ pointed: new Set(["hub"]), dim: true });
  equal([pointing.stress("hub").includes("outline"), pointing.stress("bell")], [true, "opacity-35"]);
  equal([of().stress("hub"), of().opacity("hub"), of().opacity("bell")], ["", 0.5, undefined]);
});
