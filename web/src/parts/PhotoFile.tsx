import { ImageUp } from 'lucide-react';
import { FileChoice } from './FileChoice';

/** Chooses a photo from the machine. */
export function PhotoFile({ name, onChosen }: { name: string; onChosen: (file: File) => void }) {
  return <FileChoice name={name} icon={ImageUp} accept="image/*" onChosen={onChosen} />;
}
