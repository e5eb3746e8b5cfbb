import type { ZoneView } from '../../api/client';

/** A zone's colour from across the room over those from near, each as wide as its share. */
export function Colours({ zone, className }: { zone: ZoneView; className: string }) {
  return (
    <span aria-hidden className={`flex flex-col ${className}`}>
      <span className="flex-2" style={{ background: zone.seen?.hex }} />
      <span className="flex flex-1">
        {zone.colours.map((colour) => (
          <span key={colour.hex} style={{ background: colour.hex, flexGrow: colour.share }} />
        ))}
      </span>
    </span>
  );
}
