import { useEffect, useId, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Swatch } from '../api/client';
import { useLight, useLights } from '../light/light';
import { Drawdown } from '../parts/Drawdown';
import { Panel } from '../parts/Panel';
import { useBoards } from '../state/boards';
import { usePours } from '../state/pours';
import { useMixes, usePaints } from '../state/workspace';

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
  const lights = useLights();
  const paints = usePaints().data ?? [];
  const mixes = useMixes().data ?? [];
  const pours = usePours().data ?? [];
  const boards = useBoards().data ?? [];
  return [
    { id: 'piece', name: 'Piece', kind: 'screen', go: () => go('/piece') },
    { id: 'shelf', name: 'Shelf', kind: 'screen', go: () => go('/shelf') },
    { id: 'pot', name: 'Pot', kind: 'screen', go: () => go('/pot') },
    { id: 'board', name: 'Board', kind: 'screen', go: () => go('/board') },
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
      kind: 'pot',
      go: () => go(pour.open ? `/pot/${pour.mix}` : `/label/${pour.id}`),
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
    <Panel open={open} onClose={onClose} title="Jump to">
      <Choices onClose={onClose} />
    </Panel>
  );
}

function Choices({ onClose }: { onClose: () => void }) {
  const goals = useGoals();
  const [sought, setSought] = useState('');
  const [at, setAt] = useState(0);
  const list = useId();
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean);
  const found = goals.filter((goal) =>
    words.every((word) => `${goal.name} ${goal.kind}`.toLowerCase().includes(word)),
  );
  const chosen = found[Math.min(at, found.length - 1)];
  const optionId = (goal: Goal) => `${list}-${goal.id}`;

  useEffect(() => {
    if (chosen) document.getElementById(`${list}-${chosen.id}`)?.scrollIntoView({ block: 'nearest' });
  }, [chosen, list]);

  const take = (goal: Goal | undefined) => {
    if (!goal) return;
    onClose();
    goal.go();
  };

  return (
    <>
      <input
        role="combobox"
        aria-label="Screen, paint, mix or light"
        aria-expanded
        aria-controls={list}
        aria-activedescendant={chosen && optionId(chosen)}
        value={sought}
        onChange={(event) => {
          setSought(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
          if (step && found.length > 0) {
            event.preventDefault();
            setAt((at + step + found.length) % found.length);
          }
          if (event.key === 'Enter') take(chosen);
        }}
        placeholder="oat white, pot, bulb, the code of a label…"
        className="field"
      />
      <div id={list} role="listbox" aria-label="Found" className="mt-2 max-h-[46vh] overflow-auto">
        {found.map((goal) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: keys go to the field, which has the focus
          <div
            key={goal.id}
            id={optionId(goal)}
            role="option"
            tabIndex={-1}
            aria-selected={goal === chosen}
            onClick={() => take(goal)}
            className="flex h-12 items-center gap-3 rounded-xs px-2 cursor-pointer hover:bg-panel aria-selected:bg-ink aria-selected:text-white"
          >
            {goal.swatch ? <Drawdown swatch={goal.swatch} className="h-9 w-16" /> : <span className="w-16" />}
            <bdi className="min-w-0 flex-1 truncate">{goal.name}</bdi>
            <span className="text-sm opacity-80">{goal.kind}</span>
          </div>
        ))}
      </div>
      {found.length === 0 && <p className="p-2 text-soft">No matches.</p>}
    </>
  );
}
