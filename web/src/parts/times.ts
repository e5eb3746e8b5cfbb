// Times as they are read, on the workshop's clock. Nothing is computed here.

import { pageLanguage } from './numbers';

const FORMS = {
  time: { hour: 'numeric', minute: '2-digit' },
  day: { weekday: 'long', day: 'numeric', month: 'long' },
  short: { weekday: 'short', day: 'numeric', month: 'short' },
  weekday: { weekday: 'short' },
  long: { weekday: 'long' },
  full: { day: 'numeric', month: 'long', year: 'numeric', hour: 'numeric', minute: '2-digit' },
  whole: { day: 'numeric', month: 'long', year: 'numeric' },
  date: { year: 'numeric', month: '2-digit', day: '2-digit' },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

const formats = new Map<string, Intl.DateTimeFormat>();

/** A date format in the page's language, or another; kept, because a new one takes a while. */
function format(form: keyof typeof FORMS, zone: string | null | undefined, language = pageLanguage()) {
  const key = `${language} ${form} ${zone ?? ''}`;
  const known = formats.get(key);
  if (known) return known;
  const made = new Intl.DateTimeFormat(language, { ...FORMS[form], ...(zone ? { timeZone: zone } : {}) });
  formats.set(key, made);
  return made;
}

/** Dates and times in a zone, as text. */
export function clockOf(zone: string | null | undefined) {
  const text = (form: keyof typeof FORMS, time: string) => format(form, zone).format(new Date(time));
  // The Swedish form is the ISO one, as date fields are filled.
  const iso = (time: string) => format('date', zone, 'sv').format(new Date(time));
  return {
    /** `09:30` */
    time: (at: string) => text('time', at),
    /** `Friday 27 November` */
    day: (at: string) => text('day', at),
    /** `2026-11-27` */
    date: iso,
    /** `Friday 27 November`, of a date without a time. */
    plainDay: (date: string) => format('day', 'UTC').format(new Date(`${date}T12:00:00Z`)),
    /** `27 November 2026`, of a date without a time. */
    longDay: (date: string) => format('whole', 'UTC').format(new Date(`${date}T12:00:00Z`)),
    /** `Fri 27 Nov` */
    short: (at: string) => text('short', at),
    /** `Fri 27 Nov`; `Thursday or Friday` within the week, `Thu or Fri 27 Nov` later; else `Fri 27 – Mon 30 Nov` */
    between: (first: string, last: string) => {
      const [from, to] = [iso(first), iso(last)];
      if (from === to) return text('short', last);
      const days = (Date.parse(to) - Date.parse(from)) / 86_400_000;
      if (days > 1) return format('short', zone).formatRange(new Date(first), new Date(last));
      const soon = Date.parse(last) - Date.now() < 6 * 86_400_000;
      return soon
        ? `${text('long', first)} or ${text('long', last)}`
        : `${text('weekday', first)} or ${text('short', last)}`;
    },
    /** `27 November 2026, 09:30` */
    full: (at: string) => text('full', at),
    /** `Fri 27 Nov, 09:30` */
    both: (at: string) => `${text('short', at)}, ${text('time', at)}`,
  };
}

/** `8 min`, `35 min`, `1½ h`, `16 h`: to five minutes from twenty on, to half an hour from one hour on, to an hour from eight on. */
export function lasting(minutes: number) {
  if (minutes < 19.5) return `${Math.max(1, Math.round(minutes))} min`;
  const fives = 5 * Math.round(minutes / 5);
  if (fives < 60) return `${fives} min`;
  const halves = minutes < 480 ? Math.round(minutes / 30) : 2 * Math.round(minutes / 60);
  return `${Math.floor(halves / 2)}${halves % 2 === 1 ? '½' : ''} h`;
}
