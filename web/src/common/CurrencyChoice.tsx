import { Picker } from '../parts/Picker';
import { useAction } from '../parts/useAction';
import { useWorkshop, useWorkshopCalls } from '../state/workshop';

const NONE = 'none';

/** What prices and budgets are in, chosen once for the whole workshop. */
export function CurrencyChoice() {
  const workshop = useWorkshop();
  const calls = useWorkshopCalls();
  const { attempt } = useAction();
  const names = new Intl.DisplayNames('en', { type: 'currency' });
  const choices = Intl.supportedValuesOf('currency').map((id) => ({
    id,
    name: `Prices in ${id}, ${names.of(id) ?? id}`,
  }));
  return (
    <Picker
      label="Currency"
      className="min-w-0 text-sm *:truncate"
      choices={[{ id: NONE, name: 'Prices without a currency' }, ...choices]}
      value={workshop.data?.entry.currency ?? NONE}
      onChange={(id) =>
        void attempt('Couldn’t set the currency', () => calls.chooseCurrency(id === NONE ? null : id))
      }
    />
  );
}
