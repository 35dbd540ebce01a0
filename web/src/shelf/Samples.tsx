import board from '../../../demo/departures-1280.svg?url';
import pass from '../../../demo/boarding-pass-390.svg?url';

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
