import board from '../../../demo/departures-1280.svg?url';
import booking from '../../../demo/booking-1280.svg?url';
import pass from '../../../demo/boarding-pass-390.svg?url';
import fares from '../../../demo/fares-1280.svg?url';
import fleet from '../../../demo/fleet-1280.svg?url';
import roster from '../../../demo/roster-1280.svg?url';
import swap from '../../../demo/swap-1280.svg?url';

/** Drawings of ours, for who has none at hand: what is good about each can be seen in it. */
const SAMPLES = [
  {
    file: 'departures-1280.svg',
    url: board,
    says: 'A departures board, drawn at 1280: words are words, cards are made alike, things keep their distances.',
  },
  {
    file: 'boarding-pass-390.svg',
    url: pass,
    says: 'A boarding pass on a phone, drawn at 390: one column, a picture, a bar at the foot.',
  },
  {
    file: 'booking-1280.svg',
    url: booking,
    says: 'A booking form: fields in two columns, what it costs beside them, buttons as wide as their words.',
  },
  {
    file: 'fleet-1280.svg',
    url: fleet,
    says: 'The fleet as tiles of several sizes, all on one grid.',
  },
  {
    file: 'roster-1280.svg',
    url: roster,
    says: 'A crew roster: rows alike, words that begin in the same places.',
  },
  {
    file: 'swap-1280.svg',
    url: swap,
    says: 'The roster with a dialog over it: the page behind is read as without it.',
  },
  {
    file: 'fares-1280.svg',
    url: fares,
    says: 'Fares: three cards side by side, one of which is meant to be taken.',
  },
] as const;

/** Offers our drawings one by one; each is brought in as a file of one's own would be. */
export function Samples({ onTake }: { readonly onTake: (file: File) => void }) {
  const take = async (url: string, name: string) => {
    const response = await fetch(url);
    onTake(new File([await response.text()], name, { type: 'image/svg+xml' }));
  };
  return (
    <section className="samples" aria-label="Drawings of ours">
      <p>No drawing at hand? These are what a good one looks like:</p>
      <ul>
        {SAMPLES.map(({ file, url, says }) => (
          <li key={file}>
            <button type="button" onClick={() => void take(url, file)}>
              <b>{file}</b>
              <span>{says}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
