// What is chosen once for the whole workshop: the house white, and what there is to measure with.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { api, changing, got, type Measure, type Terms, type WorkshopEntry } from '../api/client';
import { pageLanguage } from '../parts/numbers';
import { show } from './cache';
import { refresh } from './workspace';

export const NO_TERMS: Terms = {
  deposit: null,
  delivery: null,
  tax: null,
  minimum: null,
  markup: null,
  rounding: null,
  hour: null,
  overhead: null,
  margin: null,
};

const read = () => got(api.GET('/api/workshop'));

export function useWorkshop() {
  return useQuery({ queryKey: ['workshop'], queryFn: read });
}

/** Money in a currency, or without one, as this painter's language writes it. */
export const moneyIn = (currency: string | null | undefined): ((value: number) => string) =>
  currency
    ? (value) => new Intl.NumberFormat(pageLanguage(), { style: 'currency', currency }).format(value)
    : (value) => value.toFixed(2);

/** How money is written here: with the workshop's currency, as this painter's language writes it. */
export const useMoney = () => moneyIn(useWorkshop().data?.entry.currency);

/** Two amounts that are known roughly, in two figures: `€720 to €990`. */
export function useMoneyBetween(): (least: number, most: number) => string {
  const currency = useWorkshop().data?.entry.currency;
  const style = currency ? { style: 'currency' as const, currency } : {};
  const rough = new Intl.NumberFormat(pageLanguage(), {
    ...style,
    minimumFractionDigits: 0,
    maximumFractionDigits: 0,
    maximumSignificantDigits: 2,
  });
  return (least, most) => `${rough.format(least)} to ${rough.format(most)}`;
}

export function useWorkshopCalls() {
  const client = useQueryClient();
  const change = async (what: (now: WorkshopEntry) => Partial<WorkshopEntry>) => {
    const { revision, entry } = await read();
    const body = { ...entry, ...what(entry) };
    await show(
      client,
      ['workshop'],
      await got(changing.PUT('/api/workshop', { params: { query: { revision } }, body })),
    );
    await refresh(client);
  };
  return {
    chooseHouseWhite: (house_white: string | null) => change(() => ({ house_white })),
    own: (owned: Measure[]) => change(() => ({ owned })),
    chooseCurrency: (currency: string | null) => change(() => ({ currency })),
    /** Terms that were not changed stay as they are saved. */
    setTerms: (terms: Partial<Terms>) =>
      change((now) => ({ terms: { ...NO_TERMS, ...now.terms, ...terms } })),
  };
}
