import type { Chance, Counted } from "../../engine/engine";

const group = (digits: string) => digits.replace(/\B(?=(\d{3})+(?!\d))/g, " ");

/** A count in words; a long one by its size. */
export function waysWords({ count, exact }: Counted): string {
  const least = exact ? "" : "at least ";
  const many = count.length > 12 ? `about ${powerOfTen(count)}` : group(count);
  return `${least}${many}`;
}

/** One in how many, as "1 in 16,384"; a chance that is there is never told as none. */
function oneIn(a: bigint, b: bigint): string {
  if (a === 0n) return "0";
  if (b % a !== 0n && b < 30n) return `${a} in ${b}`;
  const n = (b + a / 2n) / a;
  const about = b % a === 0n ? "" : "about ";
  return `${about}1 in ${n < 10n ** 12n ? n.toLocaleString("en") : powerOfTen(n.toString())}`;
}

const powers = new Intl.NumberFormat("en", { notation: "scientific", maximumFractionDigits: 1 });

/** A number too long to read, as 2.4 × 10¹⁸. */
function powerOfTen(digits: string) {
  const [front, power] = powers.format(BigInt(digits)).split("E");
  return `${front} × 10${[...power!].map((d) => "⁰¹²³⁴⁵⁶⁷⁸⁹"[Number(d)]).join("")}`;
}

/** How likely a blind guesser gets everything right. */
export function chanceWords(c: Chance): string {
  if (c.exact) {
    const [a, b = "1"] = c.valid.split("/");
    return oneIn(BigInt(a!), BigInt(b));
  }
  const [low, high] = c.interval?.valid ?? [0, 0]; // percents with two places
  if (low === 0) return `rarer than 1 in ${Math.floor(100 / high).toLocaleString("en")}`;
  return oneIn(BigInt(Math.round(100 * (low + high))), 20000n).replace(/^(?!about )/, "about ");
}

/** The part of the ledger that the proof opens in, so that it covers neither board nor cells. */
export const proofRoom = "proof-room";
