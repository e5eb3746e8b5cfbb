import { Download } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { Piece } from '../../api/client';
import { useSavedFile } from '../../parts/useSavedFile';
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
  const saveAs = useSavedFile();
  const save = () => saveAs(`${entry.name}, ${view}.png`, () => draw(entry, scheme, turned ?? { view }));
  return (
    <DropdownMenu.Item className="menu-item" onSelect={save}>
      <Download size={18} aria-hidden /> Save the picture
    </DropdownMenu.Item>
  );
}
