const LEGEND = [
  ['shape', 'box'],
  ['text', 'text'],
  ['outlined', 'text from outlines'],
  ['drawn', 'drawn words'],
  ['art', 'icon'],
  ['picture', 'picture'],
  ['chosen', 'chosen'],
  ['gone', 'cleaned up'],
] as const;

/** What the marks over the drawing mean. */
export function Legend() {
  return (
    <ul className="legend" aria-label="Legend">
      {LEGEND.map(([key, label]) => (
        <li key={key}>
          <i className={`key key-${key}`} /> {label}
        </li>
      ))}
    </ul>
  );
}
