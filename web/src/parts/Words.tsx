/** The words of a certificate, numbered so that they can be read aloud. */
export function Words({ words }: { words: string[] }) {
  return (
    <ol
      aria-label="Words of this workshop"
      className="flex max-w-prose flex-wrap gap-x-5 gap-y-1 text-xl font-semibold"
    >
      {words.map((word, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a word may come twice, and none ever moves
        <li key={place}>{word}</li>
      ))}
    </ol>
  );
}
