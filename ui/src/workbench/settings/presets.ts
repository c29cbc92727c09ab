import type { Doc } from "../../api/types";

type Play = Doc["play"];

/** Ways to play, each of which sets all of it but the time and how exactly a piece must hit. */
export const presets: Record<string, { name: string; play: Partial<Play> }> = {
  practice: {
    name: "practice",
    play: {
      check: "ask",
      checkWhen: "any",
      attempts: 0,
      wrongPieces: "home",
      rightPieces: "hold",
      show: "check",
      refusals: "free",
      undo: true,
      reset: true,
      restart: true,
      review: "both",
      reenter: "resume",
      beckon: "none",
      shuffle: true,
      deal: "all",
    },
  },
  assessment: {
    name: "assessment",
    play: {
      check: "ask",
      checkWhen: "allPlaced",
      attempts: 1,
      wrongPieces: "stay",
      rightPieces: "stay",
      show: "never",
      refusals: "free",
      undo: true,
      reset: true,
      restart: false,
      review: "none",
      reenter: "resume",
      beckon: "none",
      shuffle: true,
      deal: "all",
    },
  },
};

/** What a preset sets, in words. */
export function presetWords(p: Partial<Play>): string {
  return [
    p.attempts === 0 ? "as many attempts as they want" : p.attempts === 1 ? "one attempt" : `${p.attempts} attempts`,
    p.checkWhen === "allPlaced" ? "checked once everything is placed" : "checked when they ask",
    p.show === "never" ? "results never shown" : "right and wrong show at a check",
    p.wrongPieces === "home" ? "wrong pieces go home, correct ones are held" : "pieces stay in place",
    p.restart ? "they can start over" : "they cannot start over",
    p.review === "none"
      ? "afterwards they see only their score"
      : "afterwards they see their answer and the correct one",
    "pieces are shuffled",
  ].join("; ");
}
