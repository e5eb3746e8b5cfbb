import { useState } from 'react';
import type { Colour, PiecePhoto, Problem } from '../../../api/client';
import { CARDS } from '../../../common/usePhotoInWork';
import { ColourField } from '../../../parts/ColourField';
import { PaintPicker } from '../../../parts/PaintPicker';
import { Segments } from '../../../parts/Segments';
import { usePaints } from '../../../state/workspace';

type Card = NonNullable<PiecePhoto['card']>;
type Kind = Pick<Card, 'kind' | 'colour'>;

const KINDS = [...CARDS, { id: 'known', name: 'Known colour' }] as const;

interface CardProps {
  card: Card | undefined;
  /** True where the program found it. */
  isProposed: boolean;
  /** Where the photo stands in what is sent, and what is wrong with that. */
  pointer: string;
  problem: Problem | undefined;
  onKind: (kind: Kind) => void;
  onRadius: (by: number) => void;
  onNone: () => void;
}

/** What the light of the photo is judged by, and how large the circle on it is. */
export function CardMarks({ card, isProposed, pointer, problem, onKind, onRadius, onNone }: CardProps) {
  // A known colour is one only once it is entered.
  const [asking, ask] = useState(false);
  const kind = asking ? 'known' : (card?.kind ?? '');
  const choose = (next: Card['kind']) => {
    ask(next === 'known');
    if (next !== 'known') onKind({ kind: next });
  };
  return (
    <>
      <Segments
        label="Card in the photo"
        choices={KINDS}
        value={kind}
        onChange={choose}
        className="flex flex-wrap"
      />
      {kind === 'known' && (
        <KnownColour
          colour={card?.colour ?? undefined}
          pointer={`${pointer}/card/colour`}
          problem={problem}
          onColour={(colour) => {
            ask(false);
            onKind({ kind: 'known', colour });
          }}
        />
      )}
      <p>
        {card
          ? isProposed
            ? 'This looks like the card. Drag the point onto it if it is elsewhere.'
            : `Drag the point onto the ${kind === 'known' ? 'surface' : 'card'}; the circle has to lie within it.`
          : 'Without a card the colours are only approximate.'}
      </p>
      {card && (
        <div className="flex flex-wrap gap-1">
          <button type="button" className="press press-plain" onClick={() => onRadius(0.8)}>
            Smaller
          </button>
          <button type="button" className="press press-plain" onClick={() => onRadius(1.25)}>
            Larger
          </button>
          <button type="button" className="press press-bare px-2 text-sm" onClick={onNone}>
            No card
          </button>
        </div>
      )}
    </>
  );
}

interface KnownProps {
  colour: Colour | undefined;
  pointer: string;
  problem: Problem | undefined;
  onColour: (colour: Colour) => void;
}

/** The colour of something in the photo: typed, or that of a paint. */
function KnownColour({ colour, pointer, problem, onColour }: KnownProps) {
  const paints = (usePaints().data ?? []).filter(({ entry }) => entry.colour);
  const same = (one: Colour) => JSON.stringify(one) === JSON.stringify(colour);
  const chosen = paints.find(({ entry }) => entry.colour && same(entry.colour));
  return (
    <>
      {paints.length > 0 && (
        <PaintPicker
          label="Painted with"
          className="w-full min-w-0"
          placeholder="Painted with…"
          choices={paints.map(({ id, entry, swatch }) => ({ id, name: entry.name, swatch }))}
          value={chosen?.id ?? ''}
          onChange={(id) => {
            const own = paints.find((paint) => paint.id === id)?.entry.colour;
            if (own) onColour(own);
          }}
        />
      )}
      <ColourField
        // What a paint brings replaces what was typed.
        key={chosen?.id ?? 'typed'}
        label="Its colour"
        colour={colour}
        pointer={pointer}
        problem={problem}
        onChange={(typed) => typed && onColour(typed)}
      />
    </>
  );
}
