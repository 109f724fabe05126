/** Adding up decimals exactly, as they were typed. */

const DECIMAL = /^([+-]?)(\d*)\.?(\d*)$/;

/** The sum in plain digits; what is not a number is passed over. */
export function total(texts: readonly string[]): string {
  const found = texts
    .map((text) => DECIMAL.exec(text.trim()))
    .filter((match) => match !== null)
    .filter(([, , before, after]) => Boolean(before ?? "") || Boolean(after ?? ""));
  const places = Math.max(0, ...found.map(([, , , after = ""]) => after.length));
  const sum = found.reduce((so, [, sign, before = "", after = ""]) => {
    const whole = BigInt(before + after.padEnd(places, "0"));
    return sign === "-" ? so - whole : so + whole;
  }, 0n);
  const digits = (sum < 0n ? -sum : sum).toString().padStart(places + 1, "0");
  const end = places ? digits.slice(-places).replace(/0+$/, "") : "";
  const start = places ? digits.slice(0, -places) : digits;
  return `${sum < 0n ? "-" : ""}${start}${end ? `.${end}` : ""}`;
}
