// Times as they are read, on the workshop's clock. Nothing is computed here.

/** Writers of times in a zone. */
export function clockOf(zone: string | null | undefined) {
  const at = (options: Intl.DateTimeFormatOptions) =>
    new Intl.DateTimeFormat(navigator.language, { ...options, ...(zone ? { timeZone: zone } : {}) });
  const [time, day, short, weekday, long, full, plain] = [
    at({ hour: 'numeric', minute: '2-digit' }),
    at({ weekday: 'long', day: 'numeric', month: 'long' }),
    at({ weekday: 'short', day: 'numeric', month: 'short' }),
    at({ weekday: 'short' }),
    at({ weekday: 'long' }),
    at({ day: 'numeric', month: 'long', year: 'numeric', hour: 'numeric', minute: '2-digit' }),
    // As date fields are filled: the Swedish form is the ISO one.
    new Intl.DateTimeFormat('sv', zone ? { timeZone: zone } : {}),
  ];
  const ofDate = new Intl.DateTimeFormat(navigator.language, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    timeZone: 'UTC',
  });
  return {
    /** `09:30` */
    time: (text: string) => time.format(new Date(text)),
    /** `Friday 27 November` */
    day: (text: string) => day.format(new Date(text)),
    /** `2026-11-27` */
    date: (text: string) => plain.format(new Date(text)),
    /** `Friday 27 November`, of a date without a time. */
    plainDay: (date: string) => ofDate.format(new Date(`${date}T12:00:00Z`)),
    /** `Fri 27 Nov` */
    short: (text: string) => short.format(new Date(text)),
    /** `Fri 27 Nov`; `Thursday or Friday` within the week, `Thu or Fri 27 Nov` later; else `Fri 27 – Mon 30 Nov` */
    between: (first: string, last: string) => {
      const [from, to] = [first, last].map((text) => plain.format(new Date(text)));
      if (from === to || !from || !to) return short.format(new Date(last));
      const days = (Date.parse(to) - Date.parse(from)) / 86_400_000;
      if (days > 1) return short.formatRange(new Date(first), new Date(last));
      const soon = Date.parse(last) - Date.now() < 6 * 86_400_000;
      const named = (soon ? [long, long] : [weekday, short]) as [typeof long, typeof long];
      return `${named[0].format(new Date(first))} or ${named[1].format(new Date(last))}`;
    },
    /** `27 November 2026, 09:30` */
    full: (text: string) => full.format(new Date(text)),
    /** `Fri 27 Nov, 09:30` */
    both: (text: string) => `${short.format(new Date(text))}, ${time.format(new Date(text))}`,
  };
}

/** `8 min`, `35 min`, `1 h 20 min`: to five minutes from twenty on. */
export function lasting(minutes: number) {
  const whole = minutes < 20 ? Math.max(1, Math.round(minutes)) : 5 * Math.round(minutes / 5);
  const [hours, rest] = [Math.floor(whole / 60), whole % 60];
  if (hours === 0) return `${whole} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${rest} min`;
}
