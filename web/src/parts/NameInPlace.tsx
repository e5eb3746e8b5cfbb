import { type ComponentProps, useId, useRef } from 'react';
import { TroubleLine } from './TroubleLine';
import { useTyped } from './useTyped';

interface Props extends Pick<ComponentProps<'input'>, 'placeholder' | 'size' | 'className' | 'ref'> {
  label: string;
  /** As it is kept. */
  kept: string;
  /** A promise that fails puts the name back. */
  onKeep: (name: string) => Promise<void> | void;
  /** Most things have a name; a mix may have none. */
  mayBeEmpty?: boolean;
  error?: string | undefined;
}

/** A name that is changed where it stands: Enter or leaving it keeps it, Escape puts it back. */
export function NameInPlace({
  label,
  kept,
  onKeep,
  mayBeEmpty = false,
  error,
  className = '',
  ...rest
}: Props) {
  const id = useId();
  // What was asked for may not be kept yet: it is asked for once.
  const asked = useRef(kept);
  const putBack = () => {
    asked.current = kept;
    setName(kept);
  };
  const keep = async (name: string) => {
    const said = name.trim();
    if (said === asked.current) return;
    if (!(said || mayBeEmpty)) return putBack();
    asked.current = said;
    try {
      await onKeep(said);
    } catch {
      putBack();
    }
  };
  const {
    text: name,
    setText: setName,
    leaving,
  } = useTyped(
    kept,
    (name) => void keep(name),
    () => {
      asked.current = kept;
    },
  );
  return (
    <>
      <input
        {...rest}
        aria-label={label}
        aria-invalid={error !== undefined}
        aria-describedby={error ? id : undefined}
        value={name}
        title={name || undefined}
        onChange={(event) => setName(event.target.value)}
        {...leaving}
        className={`min-h-11 min-w-0 truncate rounded bg-transparent px-2 hover:bg-panel focus:bg-paper ${className}`}
        autoComplete="off"
      />
      {error && (
        <TroubleLine id={id} className="text-sm">
          {error}
        </TroubleLine>
      )}
    </>
  );
}
