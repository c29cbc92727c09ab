import { t } from "@lingui/core/macro";
import type { Chance, Counted } from "../../engine/engine";
import { grouped } from "../../words/figures";
import { i18n } from "../../words/spoken";

/** A count in words; a long one by its size. */
export function waysWords({ count, exact }: Counted): string {
  const many = count.length > 12 ? t`about ${powerOfTen(count)}` : grouped(BigInt(count));
  return exact ? many : t`at least ${many}`;
}

/** One in how many, as "1 in 16,384"; a chance that is there is never told as none. */
function oneIn(a: bigint, b: bigint, estimated = false): string {
  if (a === 0n) return "0";
  if (b % a !== 0n && b < 30n)
    return estimated ? t`about ${String(a)} in ${String(b)}` : t`${String(a)} in ${String(b)}`;
  const n = (b + a / 2n) / a;
  const many = n < 10n ** 12n ? grouped(n) : powerOfTen(n.toString());
  return b % a === 0n && !estimated ? t`1 in ${many}` : t`about 1 in ${many}`;
}

const powers = new Intl.NumberFormat(i18n.locale, { notation: "scientific", maximumFractionDigits: 1 });

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
  if (low === 0) return t`rarer than 1 in ${grouped(Math.floor(100 / high))}`;
  return oneIn(BigInt(Math.round(100 * (low + high))), 20000n, true);
}

/** The part of the ledger that the proof opens in, so that it covers neither board nor cells. */
export const proofRoom = "proof-room";
