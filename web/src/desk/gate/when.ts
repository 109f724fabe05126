/** Moments of a gate in the questionnaire's own time zone. */

const styles = {
  short: { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit", hourCycle: "h23" },
  weekday: {
    weekday: "short",
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
    hourCycle: "h23",
  },
} as const;

export function inZone(iso: string, zone: string, style: keyof typeof styles = "short"): string {
  const form = new Intl.DateTimeFormat("en-GB", { ...styles[style], timeZone: zone });
  return form.format(new Date(iso));
}

/** A moment as a field for local moments has it. */
export function localIn(iso: string, zone: string): string {
  const form = new Intl.DateTimeFormat("sv-SE", {
    dateStyle: "short",
    timeStyle: "short",
    timeZone: zone,
  });
  return form.format(new Date(iso)).replace(" ", "T");
}

/** About when, as wide as it is sure: "tomorrow about noon". */
export function about(iso: string, now: string, zone: string): string {
  const [day = "", clock = ""] = localIn(iso, zone).split("T");
  const [today = ""] = localIn(now, zone).split("T");
  const days = (Date.parse(day) - Date.parse(today)) / 86_400_000;
  const part = partOfDay(Number(clock.slice(0, 2)));
  if (days === 0) return `today ${part}`;
  if (days === 1) return `tomorrow ${part}`;
  const form = new Intl.DateTimeFormat("en-GB", {
    weekday: days < 7 ? "long" : undefined,
    day: "numeric",
    month: "long",
    timeZone: zone,
  });
  return `on ${form.format(new Date(iso))}`;
}

function partOfDay(hour: number): string {
  if (hour < 5) return "in the night";
  if (hour < 11) return "in the morning";
  if (hour < 14) return "about noon";
  return hour < 18 ? "in the afternoon" : "in the evening";
}
