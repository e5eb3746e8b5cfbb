import { Component, type ReactNode } from 'react';
import { Failed } from '../parts/Waiting';

interface Props {
  /** Where it happened: at another place it is tried anew. */
  place: string;
  children: ReactNode;
}

/** A screen that cannot be drawn says so, and takes nothing else with it: what was saved is on the disk, what waits is sent. */
export class Trouble extends Component<Props, { error?: Error; place?: string }> {
  override state: { error?: Error; place?: string } = {};

  static getDerivedStateFromError(error: unknown) {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }

  static getDerivedStateFromProps(props: Props, state: { error?: Error; place?: string }) {
    return props.place === state.place ? null : { place: props.place, error: undefined };
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    const shown = new Error(
      `This screen met something it cannot show (${error.message}). What was saved is safe.`,
    );
    return <Failed error={shown} retry={() => window.location.reload()} />;
  }
}
