import { CARDS } from '../../../common/usePhotoInWork';
import { Segments } from '../../../parts/Segments';

interface CardProps {
  card: { kind: string } | undefined;
  /** True where the program found it. */
  isProposed: boolean;
  onKind: (kind: string) => void;
  onRadius: (by: number) => void;
  onNone: () => void;
}

/** Which card is in the photo, and how large the circle on it is. */
export function CardMarks({ card, isProposed, onKind, onRadius, onNone }: CardProps) {
  return (
    <>
      <Segments label="Card in the photo" choices={CARDS} value={card?.kind ?? ''} onChange={onKind} />
      <p>
        {card
          ? isProposed
            ? 'This looks like the card. Drag the point onto it if it is elsewhere.'
            : 'Drag the point onto the card; the circle has to lie within it.'
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
