/** Numbers, days and times in the form that people read: the same words as the server's. */

const LOCALES: Readonly<Record<string, string>> = { en: "en-GB", ar: "ar-u-nu-latn" };
const BETWEEN: Readonly<Record<string, string>> = { ar: "، " };

/** The languages that there are words for; days and numbers in others read as in English. */
const SPOKEN: ReadonlySet<string> = new Set(["en", "es", "ar"]);

function base(language: string): string {
  const [first = "en"] = language.split("-");
  return SPOKEN.has(first) ? first : "en";
}

function localeOf(language: string): string {
  return LOCALES[base(language)] ?? base(language);
}

/** Every digit of decimal text, with the decimal sign of the language. */
export function number(decimal: string, language: string): string {
  const style = { useGrouping: false, maximumFractionDigits: 20 } as const;
  const whole = decimal as Intl.StringNumericLiteral;
  return new Intl.NumberFormat(localeOf(language), style).format(whole);
}

/** A day in ISO 8601. */
export function day(iso: string, language: string): string {
  const style = { dateStyle: "long", timeZone: "UTC" } as const;
  return new Intl.DateTimeFormat(localeOf(language), style).format(new Date(`${iso}T00:00Z`));
}

/** A local moment in ISO 8601, to the minute. */
export function moment(iso: string, language: string): string {
  const [date = "", clock = ""] = iso.split("T");
  return `${day(date, language)}${BETWEEN[base(language)] ?? ", "}${clock}`;
}

/** The plural category of a count (Unicode CLDR). */
export function plural(count: number, language: string): string {
  return new Intl.PluralRules(localeOf(language)).select(count);
}
