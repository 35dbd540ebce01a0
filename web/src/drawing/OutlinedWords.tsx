import { Button, Select } from 'antd';
import { drawnFontsIn, type Drawing, type DrawingDecisions, type SetIn } from '@tinfold/core/drawing';
import { SHIPPED, type Family } from '@tinfold/core/text';

interface OutlinedWordsProps {
  readonly drawing: Drawing;
  readonly decisions: DrawingDecisions;
  /** The families that were added to the project. */
  readonly own: readonly Family[];
  readonly onShow: (items: readonly string[]) => void;
  readonly onDecide: (change: (d: DrawingDecisions) => DrawingDecisions) => void;
}

const styleName = (weight: number, italic: boolean): string => `${weight}${italic ? ' italic' : ''}`;

/** Every style of the fonts that are here, by family. */
const stylesOf = (families: readonly Family[]) =>
  families.map((f) => ({
    label: f.family,
    options: [
      ...f.weights.map((weight) => ({ weight, italic: false })),
      ...f.italics.map((weight) => ({ weight, italic: true })),
    ].map(({ weight, italic }) => ({
      value: `${f.family}|${weight}|${italic}`,
      label: `${f.family} ${styleName(weight, italic)}`,
    })),
  }));

const fromValue = (drawn: string, value: string): SetIn => {
  const [family = '', weight, italic] = value.split('|');
  return { drawn, family, weight: Number(weight), italic: italic === 'true' };
};

const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

/**
 * The words that a drawing has as outlines: those that were read, how surely, and the fonts that are not here, with what
 * is known of them and what they are set in.
 */
export function OutlinedWords({ drawing, decisions, own, onShow, onDecide }: OutlinedWordsProps) {
  const drawn = drawnFontsIn(drawing);
  const { said, setIn } = decisions;
  const set = setIn.filter((s) => !drawn.some((f) => f.name === s.drawn));
  const read = drawing.items.filter((i) => i.kind === 'text').filter((i) => i.outlined);
  const notes = drawing.notes.filter((n) => n.kind === 'cleaned up' && n.cleanUp === undefined);
  if (drawn.length + set.length + read.length === 0) return null;
  const options = stylesOf([...own, ...SHIPPED]);
  const chosen = (name: string) => setIn.find((s) => s.drawn === name);
  const choose = (name: string, value: string | undefined) => {
    onDecide((d) => ({
      ...d,
      setIn: [
        ...d.setIn.filter((s) => s.drawn !== name),
        ...(value === undefined ? [] : [fromValue(name, value)]),
      ],
    }));
  };
  return (
    <>
      <header className="panel-head">
        <b>Words from outlines</b>
        <span>
          {[
            ...(read.length > 0 ? [`${read.length} read`] : []),
            ...(drawn.length > 0 ? [`${counted(drawn.length, 'font', 'fonts')} not here`] : []),
          ].join(', ')}
        </span>
      </header>
      <ul className="facts drawn-fonts">
        {notes.map(({ text, items }) => (
          <li key={text}>
            <span className="facts-words">{text.replace(/^words were outlines: /, '')}</span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                onShow(items);
              }}
            >
              show
            </button>
          </li>
        ))}
        {drawn.map(({ name, items, unread, shapes }) => {
          const font = chosen(name);
          return (
            <li key={name}>
              <span className="facts-words">
                <b>{name}</b>, {counted(items.length, 'text', 'texts')}
                {shapes === 0
                  ? ', all of it said'
                  : `: ${counted(shapes, 'letter is', 'letters are')} not said yet, in ${counted(unread.length, 'text', 'texts')}`}
              </span>
              <Button
                size="small"
                onClick={() => {
                  onShow(unread.length > 0 ? unread.slice(0, 1) : items);
                }}
              >
                {unread.length > 0 ? 'Next to say' : 'Show'}
              </Button>
              <Select<string>
                aria-label={`Set ${name} in`}
                placeholder="Set in …"
                size="small"
                showSearch={{ optionFilterProp: 'label' }}
                allowClear
                className="drawn-font"
                value={font ? `${font.family}|${font.weight}|${font.italic}` : null}
                options={options}
                onChange={(value?: string) => {
                  choose(name, value);
                }}
              />
            </li>
          );
        })}
        {set.map(({ drawn: name, family, weight, italic }) => (
          <li key={name}>
            <span className="facts-words">
              <b>{name}</b> is set in {family} {styleName(weight, italic)}
            </span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                choose(name, undefined);
              }}
            >
              take back
            </button>
          </li>
        ))}
        {said.length > 0 && (
          <li>
            <span className="facts-words">{counted(said.length, 'letter', 'letters')} said by you</span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                onDecide((d) => ({ ...d, said: [], setIn: [] }));
              }}
            >
              forget
            </button>
          </li>
        )}
      </ul>
    </>
  );
}
