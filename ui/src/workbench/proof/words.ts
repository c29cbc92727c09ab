import type { Chance, Counted } from "../../engine/engine";

const group = (digits: string) => digits.replace(/\B(?=(\d{3})+(?!\d))/g, " ");

/** A count in words; a long one by its size. */
export function waysWords({ count, exact }: Counted): string {
  const least = exact ? "" : "at least ";
  const many = count.length > 12 ? `about ${count[0]}.${count[1]} × 10^${count.length - 1}` : group(count);
  return `${least}${many}`;
}

/** A percent with as many places as say something. */
export function percentWords(value: number): string {
  if (value === 0) return "0 %";
  if (value < 0.01) return "under 0.01 %";
  return `${Number(value.toPrecision(2)).toLocaleString("en", { maximumFractionDigits: 2 })} %`;
}

/** How likely a blind guesser gets everything right. */
export function chanceWords(c: Chance): string {
  if (!c.exact) {
    const [low, high] = c.interval?.valid ?? [0, 0];
    if (low === 0) return `under ${percentWords(high)}`;
    return `${percentWords((low + high) / 2)}, about`;
  }
  const [a, b = "1"] = c.valid.split("/");
  return percentWords((100 * Number(a)) / Number(b));
}
