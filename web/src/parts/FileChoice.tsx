import type { LucideIcon } from 'lucide-react';
import { useId } from 'react';

interface Props {
  name: string;
  icon: LucideIcon;
  onChosen: (file: File) => void;
  accept?: string;
  /** True where it is the next thing to do. */
  first?: boolean;
}

/** Chooses a file from the machine. */
export function FileChoice({ name, icon: Icon, onChosen, accept, first = false }: Props) {
  const id = useId();
  return (
    <>
      <label htmlFor={id} className={`press ${first ? 'press-ink' : 'press-plain'}`}>
        <Icon size={20} aria-hidden /> {name}
      </label>
      <input
        id={id}
        type="file"
        accept={accept}
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
