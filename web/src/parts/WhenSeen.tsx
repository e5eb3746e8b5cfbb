import { type ReactNode, useEffect, useRef, useState } from 'react';

interface Props {
  /** Holds its place until then. */
  className: string;
  children: ReactNode;
}

/** What costs something to draw, drawn once it is nearly scrolled to. */
export function WhenSeen({ className, children }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    if (!place.current || seen) return;
    const watch = new IntersectionObserver(
      (entries) => entries.some((entry) => entry.isIntersecting) && setSeen(true),
      { rootMargin: '200px' },
    );
    watch.observe(place.current);
    return () => watch.disconnect();
  }, [seen]);
  return (
    <div ref={place} className={className}>
      {seen && children}
    </div>
  );
}
