import { i18n } from "./spoken";

const days = new Intl.DateTimeFormat(i18n.locale, { dateStyle: "medium" });
const moments = new Intl.DateTimeFormat(i18n.locale, { dateStyle: "medium", timeStyle: "short" });
const numbers = new Intl.NumberFormat(i18n.locale);
const lists = new Intl.ListFormat(i18n.locale);

// Figures as designers read them, by the rules of the language that is spoken.

/** “Nov 30, 2026”. */
export const day = (at: string | number | Date) => days.format(new Date(at));

/** “Nov 30, 2026, 11:05 PM”. */
export const moment = (at: string | number | Date) => moments.format(new Date(at));

/** “12,345”. */
export const grouped = (n: number | bigint) => numbers.format(n);

/** “a”, “a and b”, “a, b, and c”. */
export const listed = (list: string[]) => lists.format(list);
