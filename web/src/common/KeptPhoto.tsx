import { type ReactNode, useState } from 'react';
import { Problem } from '../api/client';
import { TroubleLine } from '../parts/TroubleLine';
import { why } from '../parts/useAction';
import { usePhotos } from '../state/files';
import { PhotoFile } from './PhotoFile';

interface Props {
  photo: string | null | undefined;
  /** Its id, and when it was taken, if the camera says so. */
  onChange: (photo: string, taken?: string | null) => void;
  /** Tells whether a photo is on its way: what it belongs to must not be sent without it. */
  onWay?: (coming: boolean) => void;
  /** What the button says before there is one. */
  name: string;
  /** What the photo is, to whoever does not see it. */
  alt: string;
  className: string;
  children?: ReactNode;
}

/** A photo that is kept as soon as it is chosen: shown, and exchanged for another. */
export function KeptPhoto({ photo, onChange, onWay, name, alt, className, children }: Props) {
  const { keep } = usePhotos();
  const [trouble, setTrouble] = useState<string>();
  const bring = async (chosen: File) => {
    setTrouble(undefined);
    onWay?.(true);
    try {
      const kept = await keep(chosen);
      onChange(kept.id, kept.taken);
    } catch (error) {
      const at = error instanceof Problem ? error.at('/photo') : undefined;
      setTrouble(at ?? `${why(error)}: choose it again`);
    } finally {
      onWay?.(false);
    }
  };
  return (
    <div className="grid gap-2">
      {photo && <img src={`/api/photos/kept/${photo}`} alt={alt} className={className} />}
      <div className="flex flex-wrap gap-2">
        <PhotoFile name={photo ? 'Another photo' : name} onChosen={(file) => void bring(file)} />
        {children}
      </div>
      {trouble && <TroubleLine className="text-sm">{trouble}</TroubleLine>}
    </div>
  );
}
