const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const time = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });

/** A moment as it is said: “today 14:05”, “yesterday 9:30”, “3 Nov 2026”. */
export function whenWords(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const start = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  const days = Math.ceil((start - at.getTime()) / 86_400_000);
  if (days <= 0) return `today ${time.format(at)}`;
  return days === 1 ? `yesterday ${time.format(at)}` : day.format(at);
}
