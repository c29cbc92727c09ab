/** What an activity can start as: its word in the document, its name, and what learners do there. */
export const starts = [
  ["sort", "Sort", "Pieces go into groups, each holding several."],
  ["match", "Match", "Each piece goes next to its prompt."],
  ["sequence", "Sequence", "Steps are put in order."],
  ["label", "Label", "Labels go on spots in a picture."],
  ["gaps", "Gap text", "Words go into the gaps of a text."],
  ["build", "Build", "Parts are assembled; there can be several correct answers."],
  ["question", "One question", "One of a few cards is the answer."],
  ["blank", "Blank board", "Nothing on it yet; one picture becomes the board."],
] as const;

/** What a kind of activity is called. */
export const kindName = (kind: string) => starts.find(([word]) => word === kind)?.[1] ?? kind;
