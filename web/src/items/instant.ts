/**
 * The checks that the browser can make at once, as the core defines them; the server has the
 * last word. What only the server can tell (patterns, checks across answers) is asked there.
 */
import { isEmpty, list, map, words, type Answer, type Item } from "./answer";
import type { Params } from "./words";

export interface Failure {
  code: string;
  params?: Params;
}

const CONTROL = /[\p{Cc}\p{Cs}]/u;
const CONTROL_IN_LINES = /[^\P{Cc}\t\n]|\p{Cs}/u;
const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,2})?$/i;
const DAY = /^\d{4}-\d{2}-\d{2}$/;
const CLOCK = /^([01]\d|2[0-3]):[0-5]\d$/;
const MOMENT = /^\d{4}-\d{2}-\d{2}T([01]\d|2[0-3]):[0-5]\d$/;

/** What is wrong with `answer`, null where the browser finds nothing. */
export function instant(item: Item, answer: Answer): Failure | null {
  if ("else" in map(answer) && isEmpty(answer)) return { code: "say_else" };
  if (isEmpty(answer)) return null;
  switch (item.kind) {
    case "short_text":
      return written(item, words(answer), CONTROL, 1000);
    case "long_text":
      return written(item, words(answer).replace(/\r\n?/g, "\n"), CONTROL_IN_LINES, 20_000);
    case "email":
      return /^[^\s@]+@[^\s@.]+(\.[^\s@.]+)+$/u.test(words(answer).trim())
        ? null
        : { code: "not_an_email" };
    case "phone":
      return phone(words(answer));
    case "web_address":
      return isWebAddress(words(answer).trim()) ? null : { code: "not_a_web_address" };
    case "number":
      return number(item, words(answer).trim());
    case "date":
      return ordered(item, words(answer).trim(), isDay, "not_a_date");
    case "time":
      return ordered(item, words(answer).trim(), (text) => CLOCK.test(text), "not_a_time");
    case "date_time":
      return ordered(item, words(answer).trim(), isMoment, "not_a_moment");
    case "pick_many":
      return picks(item, answer);
    default:
      return null;
  }
}

function written(item: Item, text: string, control: RegExp, most: number): Failure | null {
  if (control.test(text)) return { code: "control_character" };
  const length = Array.from(text.normalize("NFC").trim()).length;
  const longest = item.longest ?? most;
  if (length > longest) return { code: "too_long", params: { limit: longest, length } };
  if (item.shortest && length < item.shortest) {
    return { code: "too_short", params: { limit: item.shortest, length } };
  }
  return null;
}

function phone(text: string): Failure | null {
  const digits = text.replace(/\D/g, "").length;
  return digits < 3 || digits > 17 ? { code: "not_a_phone" } : null;
}

export function isWebAddress(text: string): boolean {
  const whole = /^[A-Za-z][A-Za-z0-9+.-]*:(?!\d)/.test(text) ? text : `https://${text}`;
  if (/\s/.test(text) || text.length > 2000 || !URL.canParse(whole)) return false;
  const found = new URL(whole);
  const host = found.hostname.replace(/^\.+|\.+$/g, "");
  return (found.protocol === "https:" || found.protocol === "http:") && host.includes(".");
}

/** A decimal as a whole number of millionths, so that comparing is exact. */
function exact(text: string): bigint | null {
  const found = /^([+-]?)(\d*)\.?(\d*)(?:e([+-]?\d{1,2}))?$/i.exec(text);
  if (!found) return null;
  const [, sign, before = "", after = "", power] = found;
  const places = after.length - Number(power ?? 0);
  const digits = BigInt(`${before}${after}` || "0");
  const shift = 40 - places;
  const scaled = shift >= 0 ? digits * 10n ** BigInt(shift) : digits / 10n ** BigInt(-shift);
  return sign === "-" ? -scaled : scaled;
}

const ONE = 10n ** 40n;
/** Numbers beyond these are not read at all. */
const LARGEST = 10n ** 26n * ONE;
const SMALLEST = ONE / 10n ** 25n;

function isRead(number: bigint): boolean {
  const size = number < 0n ? -number : number;
  return size === 0n || (size < LARGEST && size >= SMALLEST);
}

function number(item: Item, text: string): Failure | null {
  const found = text.length <= 25 && NUMBER.test(text) ? exact(text) : null;
  if (found === null || !isRead(found)) return { code: "not_a_number" };
  const decimals = item.decimals ?? 0;
  if ((found * 10n ** BigInt(decimals)) % ONE !== 0n) {
    return decimals
      ? { code: "too_many_decimals", params: { limit: decimals } }
      : { code: "not_whole" };
  }
  const low = item.at_least == null ? null : exact(item.at_least);
  const high = item.at_most == null ? null : exact(item.at_most);
  if (low !== null && found < low) {
    return { code: "too_small", params: { limit: item.at_least ?? "" } };
  }
  if (high !== null && found > high) {
    return { code: "too_large", params: { limit: item.at_most ?? "" } };
  }
  return null;
}

function isDay(text: string): boolean {
  if (!DAY.test(text) || text.startsWith("0000")) return false;
  const found = new Date(`${text}T00:00:00Z`);
  return !Number.isNaN(found.getTime()) && found.toISOString().startsWith(text);
}

function isMoment(text: string): boolean {
  return MOMENT.test(text) && isDay(text.slice(0, 10));
}

/** A day, time or moment in ISO 8601, whose order is that of its letters. */
function ordered(
  item: Item,
  text: string,
  is: (text: string) => boolean,
  code: string,
): Failure | null {
  if (!is(text)) return { code };
  if (item.earliest && text < item.earliest) {
    return { code: "too_early", params: { limit: item.earliest } };
  }
  if (item.latest && text > item.latest) {
    return { code: "too_late", params: { limit: item.latest } };
  }
  return null;
}

function picks(item: Item, answer: Answer): Failure | null {
  const picked = list(answer);
  const alone = (item.options ?? []).filter((option) => option.alone);
  if (picked.some((one) => "else" in map(one) && isEmpty(one))) return { code: "say_else" };
  if (picked.length === 1 && alone.some(({ code }) => code === picked[0])) return null;
  if (item.fewest && picked.length < item.fewest) {
    return { code: "too_few", params: { limit: item.fewest } };
  }
  if (item.most && picked.length > item.most) {
    return { code: "too_many", params: { limit: item.most } };
  }
  return null;
}
