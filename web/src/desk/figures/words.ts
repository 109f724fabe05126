/** Numbers of figures as people read them. */
const whole = new Intl.NumberFormat(undefined, { maximumFractionDigits: 0 });
const fine = new Intl.NumberFormat(undefined, { maximumFractionDigits: 2 });

export const many = (number: number): string => whole.format(number);

/** A share of nearly none or nearly all is not said to be none or all. */
export function percent(share: number): string {
  if (share > 0 && share < 0.005) return "< 1 %";
  if (share < 1 && share > 0.995) return "> 99 %";
  return `${whole.format(100 * share)} %`;
}

export const between = (low: number, high: number): string =>
  `${whole.format(100 * low)} to ${whole.format(100 * high)} %`;

export const number = (value: number): string => fine.format(value);
