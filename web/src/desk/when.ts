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

/** "Today 14:02", "Yesterday 19:22", "20 Nov 08:10". */
export function when(iso: string, now: Date = new Date()): string {
  const then = new Date(iso);
  const midnight = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  const time = clock.format(then);
  if (then.getTime() >= midnight) return `Today ${time}`;
  if (then.getTime() >= midnight - 86_400_000) return `Yesterday ${time}`;
  return `${day.format(then)} ${time}`;
}

export function whole(iso: string): string {
  return long.format(new Date(iso));
}
