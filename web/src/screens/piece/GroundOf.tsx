import type { Ground, ZoneView } from '../../api/client';
import { Picker } from '../../parts/Picker';
import { useBoardChoices } from '../../state/boards';

interface Props {
  zone: ZoneView;
  /** What the piece has elsewhere. */
  pieces: Ground;
  /** What it has here, where that is something else. */
  own: Ground | undefined;
  onChange: (ground: Ground | null) => void;
}

/** What the piece has below a finish. */
export function GroundOf({ zone, pieces, own, onChange }: Props) {
  const grounds = useBoardChoices()?.grounds ?? [];
  if (!zone.ground || zone.carried_from) return null;
  const on = (name: string) => `On ${name.charAt(0).toLowerCase()}${name.slice(1)}`;
  const usual = grounds.find(({ id }) => id === pieces.kind)?.name ?? '';
  return (
    <Picker
      label="On the piece below it"
      className="w-full min-w-0 *:truncate"
      choices={[
        { id: 'piece', name: on(usual) },
        ...grounds.filter(({ id }) => id !== pieces.kind).map(({ id, name }) => ({ id, name: on(name) })),
      ]}
      value={own && own.kind !== pieces.kind ? own.kind : 'piece'}
      onChange={(id) => {
        const kind = grounds.find((ground) => ground.id === id)?.id;
        onChange(kind ? { kind, colour: null } : null);
      }}
    />
  );
}

/** What the ground does to the colour where the board lay on something else, and where it will fail. */
export function GroundWarning({ zone }: Pick<Props, 'zone'>) {
  if (!zone.ground || zone.carried_from) return null;
  const { differs, fails } = zone.ground;
  return (
    <>
      {differs && <p className="text-sm">{differs}</p>}
      {fails && (
        <p className="text-sm">
          <b className="font-semibold">Will fail: </b>
          {fails}.
        </p>
      )}
    </>
  );
}
