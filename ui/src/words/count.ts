/** So many of something, in English: “1 item”, “2 items”. */
export const count = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;
