/** Several in a sentence: “a”, “a and b”, “a, b, and c”. */
export const listed = (list: string[]) => new Intl.ListFormat("en").format(list);
