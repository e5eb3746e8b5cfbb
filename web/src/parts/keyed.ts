/** Items with a key for each: what it is, and the how manieth of its kind where there are several. */
export function keyed<T>(items: readonly T[], of: (item: T) => string): { key: string; item: T }[] {
  const met = new Map<string, number>();
  return items.map((item) => {
    const own = of(item);
    const before = met.get(own) ?? 0;
    met.set(own, before + 1);
    return { key: `${own} ${before}`, item };
  });
}
