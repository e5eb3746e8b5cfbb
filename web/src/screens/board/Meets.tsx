import type { Layer, LayerPredicted } from '../../api/client';
import { Picker } from '../../parts/Picker';

interface Props {
  layer: Layer;
  below: LayerPredicted[];
  onChange: (change: Partial<Layer>) => void;
}

const HOW = [
  { how: 'avoids', words: 'Beside' },
  { how: 'seeks', words: 'Only on' },
] as const;

/** Whether a layer falls at random, beside an earlier one, or on it. */
export function Meets({ layer, below, onChange }: Props) {
  const broken = below.filter((one) => one.hex && !one.muted);
  const choices = [
    { id: 'random', name: 'Anywhere' },
    ...broken.flatMap((one) =>
      HOW.map(({ how, words }) => ({
        id: `${how} ${one.id}`,
        name: `${words}: ${one.technique}${one.pot ? `, ${one.pot}` : ''}`,
      })),
    ),
  ];
  const value = layer.meets ? `${layer.meets.how} ${layer.meets.layer}` : 'random';
  return (
    <Picker
      label="Where it lands on the layers below"
      className="w-full"
      choices={choices}
      value={choices.some(({ id }) => id === value) ? value : 'random'}
      onChange={(chosen) => {
        const [how, id] = chosen.split(' ');
        onChange({ meets: how && id ? { how, layer: id } : null });
      }}
    />
  );
}
