/** Moments in the reader's own form and time zone. */
const clock = new Intl.DateTimeFormat(undefined, {
  timeStyle: "short",
  hourCycle: "h23",
});
const day = new Intl.DateTimeFormat(undefined, {
  day: "numeric",
  month: "short",
});
const long = new Intl.DateTimeFormat(undefined, {
  dateStyle: "medium",
  timeStyle: "short",
  hourCycle: "h23",
});

/** "Today 14:02", "Yesterday 19:22", "tomorrow 08:00", "20 Nov 08:10". */
export function when(iso: string, now: Date = new Date()): string {
  const then = new Date(iso);
  const midnight = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  const time = clock.format(then);
  const tomorrow = midnight + 86_400_000;
  if (then.getTime() >= tomorrow + 86_400_000) return `${day.format(then)} ${time}`;
  if (then.getTime() >= tomorrow) return `tomorrow ${time}`;
  if (then.getTime() >= midnight) return `Today ${time}`;
  if (then.getTime() >= midnight - 86_400_000) return `Yesterday ${time}`;
  return `${day.format(then)} ${time}`;
}

/** The same within a sentence: "today 14:02". */
export const whenAmid = (iso: string, now: Date = new Date()): string =>
  when(iso, now).replace(/^[TY](?=oday|esterday)/, (first) => first.toLowerCase());

export function whole(iso: string): string {
  return long.format(new Date(iso));
}

const dated = new Intl.DateTimeFormat(undefined, { dateStyle: "full" });
const dayOnly = new Intl.DateTimeFormat(undefined, { dateStyle: "long" });

/** The day that a moment lies in, with its weekday. */
export const dayOf = (iso: string): string => dated.format(new Date(iso));

/** The day alone: "26 November 2026". */
export const onDay = (iso: string): string => dayOnly.format(new Date(iso));

export const clockOf = (iso: string): string => clock.format(new Date(iso));

/** The end of a day that was entered as YYYY-MM-DD, null where none was. */
export function endOf(day: string): string | null {
  if (!day) return null;
  const at = new Date(`${day}T00:00:00`);
  at.setDate(at.getDate() + 1);
  return at.toISOString();
}

/** The last moment before an end, which lies in the last day. */
const before = (iso: string): Date => new Date(new Date(iso).getTime() - 1);

/** The last day before an end: "26 November 2026". */
export const onLastDay = (iso: string): string => dayOnly.format(before(iso));

/** The last day before a moment, as a field for days has it. */
export function lastDay(iso: string | null | undefined): string {
  if (!iso) return "";
  return asField(before(iso)).slice(0, 10);
}

/** A moment as a field for moments has it, as the clock on the reader's wall shows it. */
export function asField(at: Date): string {
  const two = (value: number) => String(value).padStart(2, "0");
  const day = `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`;
  return `${day}T${two(at.getHours())}:${two(at.getMinutes())}`;
}
