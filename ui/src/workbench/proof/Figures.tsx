import { memo } from "react";
import { Plural, Trans } from "@lingui/react/macro";
import type { Counted } from "../../engine/engine";
import { waysWords } from "./words";

type Props = { n: number };

// They are drawn again where the number changes, not whenever something else in the strip does.

export const Pieces = memo(function Pieces({ n }: Props) {
  return (
    <Plural
      value={n}
      one={
        <Trans>
          <b>#</b> piece
        </Trans>
      }
      other={
        <Trans>
          <b>#</b> pieces
        </Trans>
      }
    />
  );
});

export const Targets = memo(function Targets({ n }: Props) {
  return (
    <Plural
      value={n}
      one={
        <Trans>
          <b>#</b> target
        </Trans>
      }
      other={
        <Trans>
          <b>#</b> targets
        </Trans>
      }
    />
  );
});

export const Silent = memo(function Silent({ n }: Props) {
  return (
    <Plural
      value={n}
      one={
        <Trans>
          <b>#</b> situation without feedback
        </Trans>
      }
      other={
        <Trans>
          <b>#</b> situations without feedback
        </Trans>
      }
    />
  );
});

export const Ways = memo(function Ways({ count }: { count: Counted }) {
  return count.count === "1" && count.exact ? (
    <Trans>
      <b>1</b> correct arrangement
    </Trans>
  ) : (
    <Trans>
      <b>{waysWords(count)}</b> correct arrangements
    </Trans>
  );
});
