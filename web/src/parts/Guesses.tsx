import type { Guess } from '../api/client';
import { Doubt, DoubtBar } from './Doubt';

/** What is guessed, and how much of the doubt each guess is. */
export function Guesses({ guesses, within }: { guesses: Guess[]; within: number }) {
  return (
    <section aria-label="What is guessed" className="grid gap-1">
      <h3 className="font-semibold">
        What may be off: <Doubt value={within} /> in all
      </h3>
      <ul className="grid gap-2">
        {guesses.map((guess) => (
          <li key={guess.words} className="grid grid-cols-[1fr_6rem_3rem] items-center gap-3">
            <span>
              <span className="inline-block first-letter:uppercase">{guess.words}</span>
              <span className="block text-sm text-soft">{guess.source}</span>
            </span>
            <DoubtBar value={guess.within} after={guess.within} />
            <span className="text-right text-sm">
              <Doubt value={guess.within} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
