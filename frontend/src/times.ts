/** Moments for reading: exact, with the year where it is not this one. */
const date = (iso: string) => new Date(iso);
const DAY = 86_400_000;

/** `Fri 4 Dec, 16:00`; with the year where it is not this one. */
export function when(iso: string, now = Date.now()): string {
  const at = date(iso);
  const year = at.getFullYear() === new Date(now).getFullYear() ? undefined : "numeric";
  const day = new Intl.DateTimeFormat("en-GB", { weekday: "short", day: "numeric", month: "short", year });
  return `${day.format(at).replace(/,/g, "")}, ${clock(iso)}`;
}

/** `16:00`. */
export function clock(iso: string): string {
  return new Intl.DateTimeFormat("en-GB", { hour: "2-digit", minute: "2-digit", hourCycle: "h23" }).format(
    date(iso),
  );
}

/** How many midnights lie between two moments, as the calendar here has it. */
function midnights(from: number, to: number): number {
  const start = new Date(from).setHours(0, 0, 0, 0);
  const end = new Date(to).setHours(0, 0, 0, 0);
  return Math.round((end - start) / DAY);
}

/** How far off a moment is, and never more than is so: minutes, hours and minutes within half a day, then days of the calendar. */
export function away(iso: string, now = Date.now()): string {
  const at = date(iso).getTime();
  const minutes = Math.floor(Math.abs(at - now) / 60_000);
  const ahead = at > now;
  const said = (words: string) => (ahead ? `in ${words}` : `${words} ago`);
  if (minutes < 1) return ahead ? "in less than a minute" : "just now";
  if (minutes < 60) return said(minutes === 1 ? "1 minute" : `${minutes} minutes`);
  const days = Math.abs(midnights(now, at));
  if (minutes < 12 * 60 || days === 0) {
    const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
    return said(`${hours} ${hours === 1 ? "hour" : "hours"}${rest ? ` ${rest} min` : ""}`);
  }
  if (days === 1) return ahead ? "tomorrow" : "yesterday";
  return said(`${days} days`);
}

/** A date that something is due: `Fri 4 Dec, 16:00, in 8 days`. */
export function dueWords(iso: string, now = Date.now()): string {
  return `${when(iso, now)}, ${away(iso, now)}`;
}

/** A moment as a field for date and time takes it, in this browser's zone. */
export function forField(iso: string | number): string {
  const at = new Date(iso);
  return new Date(at.getTime() - at.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
}
/** What such a field holds as a moment; null while it holds none. */
export function fromField(text: string): string | null {
  const at = new Date(text);
  return Number.isNaN(at.getTime()) ? null : at.toISOString();
}
