import type { components } from "./schema";

type S = components["schemas"];

export type Doc = S["Doc"];
export type Item = S["DocItem"];
export type Target = S["DocTarget"];
export type Scenery = S["DocScenery"];
export type Rect = S["DocRect"];
export type Style = S["DocStyle"];
export type Look = S["DocLook"];
export type ItemLooks = S["DocItemLooks"];
export type TargetLooks = S["DocTargetLooks"];
export type Theme = S["DocTheme"];
export type RichNode = S["Node"];
export type Medium = S["Medium"];
export type Merged = S["MergeOutputBody"];
export type Card = S["Card"];
export type Draft = S["Draft"];
export type Me = S["Me"];
export type Problem = S["Problem"];
export type Fault = S["Fault"];
export type Table = S["Table"];
export type TableEdit = S["Edit"];
export type Release = S["Release"];
export type SittingRow = S["SittingRow"];
export type Scene = S["Scene"];
export type ScenePiece = S["ScenePiece"];
export type SceneTarget = S["SceneTarget"];
export type Standing = S["Standing"];
export type Move = S["Move"];
export type Told = S["Told"];
export type Reply = S["DocReply"];
export type Condition = S["DocCondition"];
export type Opening = S["Opening"];
export type Seated = S["Seated"];

/** A move before it gets its number and time. */
export type Act = Omit<Move, "n" | "t">;
