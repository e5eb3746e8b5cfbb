import { ArrowLeft } from 'lucide-react';
import { useDemo } from '../state/demo';

/** Says that this is the demo, and leads back. */
export function DemoLine() {
  const back = useDemo().data?.back;
  if (!back) return null;
  return (
    <aside
      aria-label="The demo"
      className="flex flex-wrap items-center gap-x-3 bg-ink px-4 py-1 text-white on-dark print:hidden"
    >
      <p className="min-w-60 flex-1">Demo: everything here is made up, and nothing is kept.</p>
      <a href={back} className="press">
        <ArrowLeft size={20} aria-hidden /> Back to your own work
      </a>
    </aside>
  );
}
