import { t } from "@lingui/core/macro";

/** What an activity can start as: its word in the document, its name, and what learners do there. */
export const starts = [
  ["sort", t`Sort`, t`Pieces go into groups, each holding several.`],
  ["match", t`Match`, t`Each piece goes next to its prompt.`],
  ["sequence", t`Sequence`, t`Steps are put in order.`],
  ["label", t`Label`, t`Labels go on spots in a picture.`],
  ["gaps", t`Gap text`, t`Words go into the gaps of a text.`],
  ["build", t`Build`, t`Parts are assembled; there can be several correct answers.`],
  ["question", t`One question`, t`One of a few cards is the answer.`],
  ["blank", t`Blank board`, t`Nothing on it yet; one picture becomes the board.`],
] as const;

/** What a kind of activity is called. */
export const kindName = (kind: string) => starts.find(([word]) => word === kind)?.[1] ?? kind;
