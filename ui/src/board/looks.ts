import type { CSSProperties } from "react";
import type { Style, Theme } from "../api/types";

/** What a theme's colours are called in the style sheet. */
const names: Record<string, string> = {
  board: "--paper",
  ink: "--ink",
  well: "--well",
  rim: "--rim",
  card: "--card",
  edge: "--edge",
  accent: "--feather",
  right: "--teal",
  near: "--brass",
  wrong: "--ember",
};

/** The colours that a style can name. */
export const colourNames = Object.keys(names);

const fonts: Record<string, string> = {
  text: "var(--font-sans)",
  heading: "var(--font-heading)",
  serif: 'Georgia, "Liberation Serif", serif',
  fixed: '"Liberation Mono", monospace',
};

/** A colour of a document: a name of the theme's, or # and six digits. */
export function colour(c: string | undefined): string | undefined {
  if (!c) return undefined;
  return c.startsWith("#") ? c : names[c] && `var(${names[c]})`;
}

/** Dresses a board and its tray in a theme; without one they have the application's own colours. */
export function themed(theme: Theme | undefined): CSSProperties {
  // The rim of a target stands out from the board by 3 : 1.
  if (!theme) return { "--rim": "var(--well-rim)" } as CSSProperties;
  const c = theme.colors;
  const mix = (a: string, percent: number, b: string) => `color-mix(in srgb, ${a} ${percent}%, ${b})`;
  const vars: Record<string, string> = {
    "--slate": mix(c.ink, 78, c.board),
    "--line": mix(c.rim, 50, c.board),
    "--shade": mix(c.well, 45, c.board),
    "--picture": "transparent",
    "--feather-soft": mix(c.accent, 12, c.card),
    "--teal-soft": mix(c.right, 12, c.card),
    "--ember-soft": mix(c.wrong, 12, c.card),
    "--radius": `calc(${theme.corner}px * var(--s))`,
    "--piece-text": String(theme.size),
  };
  for (const [name, value] of Object.entries(c)) vars[names[name]!] = value;
  return { ...vars, color: c.ink, fontFamily: fonts[theme.font] } as CSSProperties;
}

/** Board units as a length on the screen. */
export const units = (n: number) => `calc(${n}px * var(--s))`;

/** How text is set, as far as a style says it. */
export function textStyle(style: Style | undefined): CSSProperties {
  const t = style?.text;
  if (!t) return {};
  return {
    ...(t.size ? { fontSize: units(t.size) } : {}),
    ...(t.weight ? { fontWeight: t.weight } : {}),
    ...(t.align ? { textAlign: t.align === "centre" ? "center" : t.align } : {}),
    ...(t.color ? { color: colour(t.color) } : {}),
  };
}

/** The ground and edge of a box, as far as a style says it. */
export function boxStyle(style: Style | undefined): CSSProperties {
  if (!style) return {};
  const { edge } = style;
  const drawn = edge && (edge.color || edge.width !== undefined || edge.dash);
  return {
    ...(style.fill ? { background: colour(style.fill) } : {}),
    ...(drawn
      ? {
          borderStyle: edge.dash ? "dashed" : "solid",
          borderColor: colour(edge.color) ?? "var(--edge)",
          borderWidth: units(edge.width ?? 1),
        }
      : {}),
    ...(style.corner !== undefined ? { borderRadius: units(style.corner) } : {}),
    ...(style.shadow ? { filter: "drop-shadow(0 2px 4px var(--shadow))" } : {}),
  };
}
