import type { CSSProperties } from "react";
import type { Sign } from "../api/types";
import { units } from "./looks";

type Props = { sign: Sign; src: string };

/** A sign of the author’s own on a part, which it is placed in. */
export function SignMark({ sign, src }: Props) {
  const half = units(sign.size / 2);
  const at: Record<Sign["at"], CSSProperties> = {
    corner: { left: `calc(-1 * ${half})`, top: `calc(-1 * ${half})` },
    middle: { left: `calc(50% - ${half})`, top: `calc(50% - ${half})` },
    below: { left: `calc(50% - ${half})`, top: "100%" },
    all: { inset: 0 },
  };
  const size = sign.at === "all" ? "100%" : units(sign.size);
  return (
    <img
      src={src}
      alt=""
      draggable={false}
      className="pointer-events-none absolute max-w-none object-contain"
      style={{ width: size, height: size, ...at[sign.at] }}
    />
  );
}
