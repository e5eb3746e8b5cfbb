import { ImageUp } from 'lucide-react';
import { useId } from 'react';

/** Chooses a photo from the machine. */
export function PhotoFile({ name, onChosen }: { name: string; onChosen: (file: File) => void }) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className="press press-plain">
        <ImageUp size={20} aria-hidden /> {name}
      </label>
      <input
        id={id}
        type="file"
        accept="image/*"
        className="sr-only"
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          // So that the same one can be chosen again.
          event.target.value = '';
          if (chosen) onChosen(chosen);
        }}
      />
    </>
  );
}
