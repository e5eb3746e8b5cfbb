import { Segments } from '../parts/Segments';
import { STATES, useLight } from './light';

/** Chooses the state of the film: wet, dry, sealed or buffed. */
export function StateControl() {
  const { state, setState } = useLight();
  return <Segments label="State" choices={STATES} value={state} onChange={setState} />;
}
