import { Download } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { Piece } from '../../api/client';
import { useTell } from '../../parts/Notice';
import { why } from '../../parts/useAction';
import { type Turned, useSavedPicture } from '../../state/piece';

interface Props {
  entry: Piece;
  scheme: number;
  view: string;
  turned: Turned | undefined;
}

/** Saves the face that is seen as a large picture, in the light and the state at hand. */
export function SavePicture({ entry, scheme, view, turned }: Props) {
  const draw = useSavedPicture();
  const tell = useTell();
  const save = async () => {
    try {
      const address = URL.createObjectURL(await draw(entry, scheme, turned ?? { view }));
      const link = document.createElement('a');
      link.href = address;
      link.download = `${entry.name}, ${view}.png`;
      link.click();
      URL.revokeObjectURL(address);
    } catch (error) {
      tell(`Couldn’t draw the picture: ${why(error)}`);
    }
  };
  return (
    <DropdownMenu.Item className="menu-item" onSelect={save}>
      <Download size={18} aria-hidden /> Save the picture
    </DropdownMenu.Item>
  );
}
