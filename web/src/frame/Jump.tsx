import { Command } from 'cmdk';
import { useNavigate } from 'react-router';
import type { Swatch } from '../api/client';
import { useLight, useLights } from '../light/light';
import { Drawdown } from '../parts/Drawdown';
import { Panel } from '../parts/Panel';
import { NoMatches, SoughtList } from '../parts/SoughtList';
import { useBoards } from '../state/boards';
import { useMe } from '../state/network';
import { usePours } from '../state/pours';
import { useMixes, usePaints } from '../state/workspace';
import { SCREENS } from './screens';

interface Goal {
  id: string;
  name: string;
  kind: string;
  swatch?: Swatch | null | undefined;
  go: () => void;
}

function useGoals(): Goal[] {
  const go = useNavigate();
  const { setLight } = useLight();
  const role = useMe().data?.role;
  const lights = useLights();
  const paints = usePaints().data ?? [];
  const mixes = useMixes().data ?? [];
  const pours = usePours().data ?? [];
  const boards = useBoards().data ?? [];
  return [
    ...SCREENS.map(({ to, name }) => ({ id: to, name, kind: 'screen', go: () => go(to) })),
    ...(role === 'guest' ? [] : [{ id: 'backups', name: 'Backups', kind: 'page', go: () => go('/backups') }]),
    ...(role ? [] : [{ id: 'network', name: 'Network', kind: 'page', go: () => go('/network') }]),
    { id: 'practice', name: 'Practice', kind: 'page', go: () => go('/practice') },
    { id: 'quotes', name: 'Quotes', kind: 'page', go: () => go('/quotes') },
    ...(role === 'guest' ? [] : [{ id: 'jars', name: 'Jars', kind: 'page', go: () => go('/jars') }]),
    { id: 'about', name: 'About, and licences', kind: 'page', go: () => go('/about') },
    ...boards.map((board) => ({
      id: board.id,
      name: board.name,
      kind: 'board',
      go: () => go(`/board/${board.id}`),
    })),
    ...mixes
      .filter((mix) => mix.entry.name)
      .map((mix) => ({
        id: mix.id,
        name: mix.entry.name ?? '',
        kind: 'mix',
        swatch: mix.prediction.swatch,
        go: () => go(`/pot/${mix.id}`),
      })),
    ...paints.map((paint) => ({
      id: paint.id,
      name: paint.entry.name,
      kind: paint.medium ? 'medium' : 'paint',
      swatch: paint.swatch,
      go: () => go(`/shelf/${paint.id}`),
    })),
    ...pours.map((pour) => ({
      id: pour.id,
      name: `${pour.code} ${pour.name ?? pour.recipe}`,
      kind: pour.jar_ml == null ? 'pot' : 'jar',
      go: () => go(pour.open ? `/pot/${pour.mix}` : `/${pour.jar_ml == null ? 'label' : 'jars'}/${pour.id}`),
    })),
    ...lights.map((light) => ({
      id: light.id,
      name: light.name,
      kind: 'light',
      go: () => setLight(light.id),
    })),
  ];
}

/** Type a few letters, go there. */
export function Jump({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Panel open={open} onClose={onClose} title="Find">
      <Choices onClose={onClose} />
    </Panel>
  );
}

function Choices({ onClose }: { onClose: () => void }) {
  const goals = useGoals();
  return (
    <div className="flex max-h-[56vh] flex-col">
      <SoughtList
        label="Screen, paint, mix or light"
        placeholder="oat white, pot, bulb, the code of a label…"
      >
        {goals.map((goal) => (
          <Command.Item
            key={goal.id}
            value={goal.id}
            keywords={[goal.name, goal.kind]}
            className="menu-item"
            onSelect={() => {
              onClose();
              goal.go();
            }}
          >
            {goal.swatch ? (
              <Drawdown swatch={goal.swatch} className="h-9 w-16" />
            ) : (
              <span aria-hidden className="w-16" />
            )}
            <bdi className="min-w-0 flex-1 truncate">{goal.name}</bdi>
            <span className="text-sm opacity-80">{goal.kind}</span>
          </Command.Item>
        ))}
        <NoMatches />
      </SoughtList>
    </div>
  );
}
