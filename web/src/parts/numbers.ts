// Numbers as they are read. Nothing is computed here.

const plain = new Intl.NumberFormat('en', { maximumFractionDigits: 2, useGrouping: false });
const one = new Intl.NumberFormat('en', { minimumFractionDigits: 1, maximumFractionDigits: 1 });
/** `en-GB` or `en-US`: how dates, times and money are written follows the units that the painter chose. */
export const pageLanguage = () => document.documentElement.lang;

export const plainNumber = (value: number) => plain.format(value);
export const oneDecimal = (value: number) => one.format(value);
/** `1.2 MB` of a number of bytes. */
export const megabytes = (bytes: number) => `${one.format(bytes / 1e6)}\u00a0MB`;
/** `64 %`, with a space that does not break. */
export const share = (value: number) => `${Math.round(100 * value)}\u00a0%`;

/** A film in µm: tenths only of what is thin. */
export const filmWords = (um: number) => plain.format(um < 10 ? Math.round(um * 10) / 10 : Math.round(um));

/** `L* 61.2 a* 9.8 b* 33.1` */
export const labWords = (lab: number[]) =>
  lab.map((value, i) => `${['L*', 'a*', 'b*'][i]} ${one.format(value).replace('-', '−')}`).join(' ');

export function coats(value: number) {
  if (value < 0.9) return 'less than a coat';
  const quarters = Math.round(value * 4);
  if (quarters <= 4) return '1 coat';
  return `${Math.floor(quarters / 4)}${['', '¼', '½', '¾'][quarters % 4]} coats`;
}

/** A colour difference or a doubt, ΔE00, in as many digits as it deserves: `0.8`, `2.5`, `6`. */
export const deltaE = (value: number) => (value < 2.95 ? one.format(value) : plain.format(Math.round(value)));

const FRACTIONS: Record<string, number> = {
  '¼': 1 / 4,
  '½': 1 / 2,
  '¾': 3 / 4,
  '⅓': 1 / 3,
  '⅔': 2 / 3,
  '⅛': 1 / 8,
  '⅜': 3 / 8,
  '⅝': 5 / 8,
  '⅞': 7 / 8,
};

/** `½`, `1½`, `1 1/2`, `3/4`; undefined for anything else. */
function fraction(text: string): number | undefined {
  const sign = /^(\d*)\s*([¼½¾⅓⅔⅛⅜⅝⅞])$/.exec(text);
  if (sign) return Number(sign[1]) + (FRACTIONS[sign[2] ?? ''] ?? 0);
  const slash = /^(?:(\d+)\s+)?(\d+)\s*[/⁄]\s*([1-9]\d*)$/.exec(text);
  return slash ? Number(slash[1] ?? 0) + Number(slash[2]) / Number(slash[3]) : undefined;
}

/** What divides the whole from its parts where this painter lives. */
const POINT = new Intl.NumberFormat(navigator.language)
  .formatToParts(1.5)
  .find((part) => part.type === 'decimal')?.value;

/** How the engine shows and reads a quantity: `zero + value / one` stands on the screen. */
export interface Scale {
  unit: string;
  one: number;
  zero: number;
  /** Digits after the point. */
  places: number;
  /** Units that may be typed instead. */
  others: { name: string; one: number; zero: number }[];
}

export const unitOf = (unit: string | Scale) => (typeof unit === 'string' ? unit : unit.unit);

/** A value as a plain number of its scale. */
export function inScale(value: number, scale: Scale) {
  const tens = 10 ** scale.places;
  return plain.format(Math.round((scale.zero + value / scale.one) * tens) / tens);
}

/** `250 ml`, `8.45 fl oz`. */
export const withUnit = (value: number, scale: Scale) => `${inScale(value, scale)} ${scale.unit}`;

/** What was typed without a unit after it, and that unit: the field's own, or another of its scale. */
function withoutUnit(text: string, unit: string | Scale = ''): [string, Scale['others'][number]] {
  const scale = typeof unit === 'string' ? undefined : unit;
  const names = scale ? [...scale.others].sort((a, b) => b.name.length - a.name.length) : [];
  const own = { name: unitOf(unit), one: scale?.one ?? 1, zero: scale?.zero ?? 0 };
  const bare = text.trim();
  const found = [own, ...names].find(({ name }) => name && bare.toLowerCase().endsWith(name.toLowerCase()));
  return [found ? bare.slice(0, -found.name.length).trim() : bare, found ?? own];
}

/**
 * A number a person typed: with a point or a comma, as a fraction, and with a unit after it, in ml or °C where the field has a scale; null
 * for nothing, undefined for what is no number or could be two.
 */
export function typed(text: string, unit?: string | Scale): number | null | undefined {
  const [bare, of] = withoutUnit(text, unit);
  const number = plainTyped(bare);
  return typeof number === 'number' ? (number - of.zero) * of.one : number;
}

function plainTyped(bare: string): number | null | undefined {
  const part = fraction(bare);
  if (part !== undefined) return part;
  const tidy = bare.replaceAll(/(?<=\d)[\s’'](?=\d{3})/g, '');
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
export function misread(text: string, unit?: string | Scale): string | undefined {
  if (typed(text, unit) !== undefined) return undefined;
  const short = text.trim().slice(0, 20);
  if (/^\d{1,3}[.,]\d{3}$/.test(short))
    return `“${short}” could be ${short.replace(/[.,]/, '')} or ${short.replace(',', '.').replace(/\.?0+$/, '')}; enter the one you mean`;
  const digits = short.replaceAll(/[^\d.,]/g, '');
  return digits && typed(digits) !== undefined
    ? `“${short}” is not a number; enter ${digits} alone`
    : `“${short}” is not a number; enter one like 61.2`;
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
