interface Props {
  /** Whether the ring lies on what looks like a card. */
  proposed: boolean;
  onYes: () => void;
}

/** Nothing is picked before somebody has said where the card is. */
export function IsItTheCard({ proposed, onYes }: Props) {
  if (!proposed) return <p className="font-medium">Tap the card, or move its ring there.</p>;
  return (
    <div className="flex flex-wrap items-center gap-3">
      <p className="font-medium">Does the ring lie on the card? If not, tap the card.</p>
      <button type="button" className="press press-ink" onClick={onYes}>
        Yes, that is the card
      </button>
    </div>
  );
}
