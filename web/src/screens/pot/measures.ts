// What a batch is said and measured in.

import { useUnits } from '../../light/light';
import { typed } from '../../parts/numbers';
import type { BatchAsked } from '../../state/bench';

export const MEASURES = [
  { id: 'ml', name: 'ml' },
  { id: 'litre', name: 'litres' },
  { id: 'tsp', name: 'tsp' },
  { id: 'tbsp', name: 'tbsp' },
  { id: 'fl-oz', name: 'fl oz' },
  { id: 'cup', name: 'cups' },
  { id: 'pint', name: 'pints' },
  { id: 'quart', name: 'quarts' },
  { id: 'gallon', name: 'gallons' },
  { id: 'scoop', name: 'scoops' },
  { id: 'drop', name: 'drops' },
] as const;

/** How much is to be mixed, as it is typed. */
export interface Batch {
  amount: string;
  /** A measure, `m2`, `ft2`, or the id of a paint that is used up. */
  measure: string;
  coats: string;
}

export const ofSurface = (batch: Batch) => batch.measure === 'm2' || batch.measure === 'ft2';
/** The measure it is said in, where it is said in one. */
export const measureOf = (batch: Batch) => MEASURES.find(({ id }) => id === batch.measure)?.id;

/** What is asked of the engine for a batch; none while no number stands there. */
export function asked(batch: Batch): BatchAsked | undefined {
  if (!ofSurface(batch) && !measureOf(batch))
    return { amount: 0, measure: 'left', coats: null, using_up: batch.measure };
  const amount = typed(batch.amount);
  if (amount == null) return undefined;
  return { amount, measure: batch.measure, coats: typed(batch.coats) ?? null, using_up: null };
}

/** What single additions are shown in. */
export const POURED_IN = [
  { id: 'ml', name: 'ml' },
  { id: 'drop', name: 'drops' },
  { id: 'tsp', name: 'tsp' },
  { id: 'tbsp', name: 'tbsp' },
  { id: 'fl-oz', name: 'fl oz' },
  { id: 'cup', name: 'cups' },
  { id: 'scoop', name: 'scoops' },
  { id: 'g', name: 'grams' },
] as const;

/** What small amounts are measured with where the painter has not chosen. */
export const useUsualMeasure = () => (useUnits() === 'metric' ? 'ml' : 'fl-oz');

/** Amounts at a touch, by measure. */
export function handy(measure: string): readonly { count: number; name: string }[] {
  const whole = (counts: number[]) => counts.map((count) => ({ count, name: String(count) }));
  if (measure === 'ml' || measure === 'g') return whole([1, 5, 10, 50]);
  if (measure === 'drop') return whole([1, 2, 5, 10]);
  return [
    { count: 0.25, name: '¼' },
    { count: 0.5, name: '½' },
    { count: 1, name: '1' },
    { count: 2, name: '2' },
  ];
}

/** The measure that additions to a batch said in another are shown in. */
export function finer(measure: string) {
  if (measure === 'litre') return 'ml';
  if (['pint', 'quart', 'gallon'].includes(measure)) return 'fl-oz';
  return measure === 'cup' ? 'tbsp' : measure;
}
