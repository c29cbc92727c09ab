import { t } from "@lingui/core/macro";
import type { Sign } from "../../api/types";
import { ChoiceField, NumberField } from "../../kit/fields";
import { PictureField } from "./PictureField";

type Props = {
  /** Which of the two it is. */
  tone: "right" | "wrong";
  sign?: Sign;
  onDone: (sign: Sign | undefined) => void;
};

/** A picture of one’s own that says correct or incorrect on a piece, and where it stands. */
export function SignField({ tone, sign, onDone }: Props) {
  const named = tone === "right" ? t`Mark on correct pieces` : t`Mark on incorrect pieces`;
  return (
    <div role="group" aria-label={named} className="col-span-full flex flex-wrap items-end gap-2">
      <span className="flex flex-col text-[13px] text-slate">
        {named}
        <PictureField
          picture={sign?.picture ?? ""}
          of={t`Picture that says ${tone}`}
          onDone={(picture) => onDone(picture ? { at: "corner", size: 28, ...sign, picture } : undefined)}
        />
      </span>
      {sign && (
        <ChoiceField
          label={t`Where`}
          values={[sign.at]}
          options={[
            ["corner", t`on the corner`],
            ["middle", t`in the middle`],
            ["below", t`below`],
            ["all", t`over the whole part`],
          ]}
          onDone={(at) => onDone({ ...sign, at: at as Sign["at"] })}
        />
      )}
      {sign && sign.at !== "all" && (
        <NumberField
          label={t`Size of the mark`}
          values={[sign.size]}
          low={8}
          high={400}
          onDone={(size) => onDone({ ...sign, size: size! })}
        />
      )}
    </div>
  );
}
