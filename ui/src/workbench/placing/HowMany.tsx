import { useEffect, useState, type RefObject } from "react";
import { plural, t } from "@lingui/core/macro";
import { Select } from "../../kit/Select";
import { Button } from "../../kit/Button";
import type { Asking } from "../../engine/engine";

const counted = ["exactly", "atLeast", "atMost"] as const;
const words: Record<Asking["how"], string> = {
  all: t`all of them`,
  exactly: t`exactly`,
  atLeast: t`at least`,
  atMost: t`at most`,
  may: t`any number (optional)`,
};

type Props = {
  /** What it is about, as what comes after “Required”: "of 3 pieces in 2 Brakes". */
  about: string;
  /** How many pieces there are. */
  pieces: number;
  /** The number that was typed to open it. */
  typed?: string;
  /** What it would be now; undefined where that is not possible or was not touched. */
  now: RefObject<Asking | undefined>;
  onDone: (asking: Asking) => void;
};

/** How many of some pieces must be placed. Enter takes the number. */
export function HowMany({ about, pieces, typed, now, onDone }: Props) {
  const [how, setHow] = useState<Asking["how"]>("exactly");
  const [n, setN] = useState(typed ?? "1");
  const number = Number(n);
  const isCounted = (counted as readonly string[]).includes(how);
  const possible = !isCounted || (/^\d+$/.test(n) && number <= 49500);
  const asking = { how, n: isCounted ? number : 0 };
  const touched = typed !== undefined || how !== "exactly" || n !== "1";
  useEffect(() => {
    now.current = possible && touched ? asking : undefined;
    return () => void (now.current = undefined);
  });
  return (
    <form
      className="flex flex-col gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (possible) onDone(asking);
      }}
    >
      <p className="font-medium">{t`Required, ${about}:`}</p>
      <div className="flex items-center gap-2">
        <Select
          label={t`How many`}
          value={how}
          onPick={(to) => setHow(to as Asking["how"])}
          className="h-8 rounded-(--radius) border border-line bg-paper px-1.5"
          options={[...(Object.keys(words) as Asking["how"][]).map((w) => [w, words[w]] as const)]}
        />
        {isCounted && (
          <input
            aria-label={t`Number`}
            autoFocus
            inputMode="numeric"
            value={n}
            onChange={(e) => setN(e.target.value)}
            onFocus={(e) => !typed && e.target.select()}
            className="h-8 w-14 rounded-(--radius) border border-line bg-paper px-2 tabular-nums"
          />
        )}
        <Button kind="main" type="submit" disabled={!possible}>
          {t`Set`}
        </Button>
      </div>
      {isCounted && number > pieces && (
        <p className="text-brass">
          {plural(pieces, { one: "There is only # piece.", other: "There are only # pieces." })}
        </p>
      )}
    </form>
  );
}
