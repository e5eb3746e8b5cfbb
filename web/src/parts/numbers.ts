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

/** What divides the whole from its parts where this painter lives. */
const POINT = new Intl.NumberFormat(navigator.language)
  .formatToParts(1.5)
  .find((part) => part.type === 'decimal')?.value;

/** A number a person typed: with a point or a comma; null for nothing, undefined for what is no number or could be two. */
export function typed(text: string): number | null | undefined {
  const tidy = text.trim().replaceAll(/(?<=\d)[\s’'](?=\d{3})/g, '');
  const thousands = /^[1-9]\d{0,2}([.,])\d{3}(?:\1\d{3})*(?:(?!\1)[.,]\d+)?$/.exec(tidy)?.[1];
  // One mark before three figures: the painter's point is a point; a comma that is not sets off thousands; and a point could be
  // either, because the screen writes one.
  const single = tidy.match(/[.,]/g)?.length === 1;
  if (thousands === undefined || (single && thousands === POINT)) return small(tidy);
  return single && thousands === '.' ? undefined : small(tidy.replaceAll(thousands, ''));
}

/** The same where no number has thousands, such as L*: a comma is a point, however many figures follow. */
export function small(text: string): number | null | undefined {
  const tidy = text.trim().replace(',', '.');
  if (tidy === '') return null;
  return /^[+-]?(\d+\.?\d*|\.\d+)$/.test(tidy) ? Number(tidy) : undefined;
}

/** Why what was typed is not taken, and what to do. */
export function misread(text: string): string | undefined {
  if (typed(text) !== undefined) return undefined;
  const short = text.trim().slice(0, 20);
  if (/^\d{1,3}[.,]\d{3}$/.test(short))
    return `“${short}” could be ${short.replace(/[.,]/, '')} or ${short.replace(',', '.').replace(/\.?0+$/, '')}: write the one you mean`;
  const digits = short.replaceAll(/[^\d.,]/g, '');
  return digits && typed(digits) !== undefined
    ? `“${short}”: write the number alone, ${digits}`
    : `“${short}” is not a number: digits, with a point or a comma`;
}

const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});

const date = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' });

/** `25 Nov` of an RFC 3339 time. */
export const onDay = (time: string) => date.format(new Date(time));

/** `25 Nov, 00:31` of an RFC 3339 time. */
export const when = (time: string) => day.format(new Date(time));
