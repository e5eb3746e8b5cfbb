// Numbers as they are read. Nothing is computed here.

const plain = new Intl.NumberFormat('en', { maximumFractionDigits: 2, useGrouping: false });
const one = new Intl.NumberFormat('en', { minimumFractionDigits: 1, maximumFractionDigits: 1 });
const percent = new Intl.NumberFormat('en', { style: 'percent', maximumFractionDigits: 0 });

export const plainNumber = (value: number) => plain.format(value);
export const oneDecimal = (value: number) => one.format(value);
export const share = (value: number) => percent.format(value);

/** A film in µm: tenths only of what is thin. */
export const filmWords = (um: number) => plain.format(um < 10 ? Math.round(um * 10) / 10 : Math.round(um));

/** `L* 61.2 a* 9.8 b* 33.1` */
export const labWords = (lab: number[]) =>
  lab.map((value, i) => `${['L*', 'a*', 'b*'][i]} ${one.format(value).replace('-', '−')}`).join(' ');

export function coats(value: number) {
  if (value < 0.9) return 'less than a coat';
  return value < 1.1 ? '1 coat' : `${plain.format(Math.round(value * 4) / 4)} coats`;
}

/** A number a person typed: with a point or a comma; null for nothing, undefined for what is no number. */
export function typed(text: string): number | null | undefined {
  const tidy = text.trim().replace(',', '.');
  if (tidy === '') return null;
  const value = Number(tidy);
  return Number.isFinite(value) ? value : undefined;
}

const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});

/** `25 Nov, 00:31` of an RFC 3339 time. */
export const when = (time: string) => day.format(new Date(time));
