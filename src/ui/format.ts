const two = (value: number): string => String(value).padStart(2, '0');

/** Wall-clock time of an entry: hours to milliseconds, in the browser's zone. */
export function clockText(wallMs: number): string {
  const date = new Date(wallMs);
  return `${two(date.getHours())}:${two(date.getMinutes())}:${two(date.getSeconds())}.${String(date.getMilliseconds()).padStart(3, '0')}`;
}

/** How long ago something was: `just now`, `12 s ago`, `3 min ago`. */
export function ageText(ageUs: number): string {
  const seconds = Math.max(0, ageUs) / 1e6;
  if (seconds < 1.5) return 'just now';
  if (seconds < 90) return `${Math.round(seconds)} s ago`;
  return seconds < 5400 ? `${Math.round(seconds / 60)} min ago` : `${Math.round(seconds / 3600)} h ago`;
}

/** `2026-11-20`, in the time of this computer. */
function dayText(wallMs: number): string {
  const date = new Date(wallMs);
  return `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`;
}

/** `2026-11-20 09:14`, in the time of this computer. */
export const dateText = (wallMs: number): string => `${dayText(wallMs)} ${clockText(wallMs).slice(0, 5)}`;

/** `2026-11-20 09:14:23.943`, in the time of this computer. */
export const momentText = (wallMs: number): string => `${dayText(wallMs)} ${clockText(wallMs)}`;

/** `1,234,567`. What the browser has for it is read from its tables of languages at the first use, which takes 40 ms of a page's beginning. */
export const countText = (count: number): string => String(count).replace(/\B(?=(?:\d{3})+$)/g, ',');

/** `12.5 ms` of microseconds. */
export const msText = (us: number): string => `${(us / 1000).toFixed(1)} ms`;

/** Milliseconds for a table that names the unit in its head; a dash where nobody knows. */
export const inMs = (us: number): string => (Number.isNaN(us) ? '–' : (us / 1000).toFixed(1));
