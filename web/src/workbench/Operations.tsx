import { memo } from 'react';
import { Button } from 'antd';
import { COMMANDS, inHand, shownKeys, type Command, type Hands } from './commands';
import { take } from './taken';
import { conflictOf } from './conflicts';

const STRIP = COMMANDS.filter((c) => c.inStrip);

/** No more moved parts are named. */
const NAMED = 3;
const px = (n: number): string => `${Math.round(n * 10) / 10} px`;

/** What can be done to the parts in hand, and what the last operation did or asks. */
export const Operations = memo(function Operations(hands: Hands) {
  const { use } = hands;
  const selected = use((s) => s.selected);
  const also = use((s) => s.also);
  use((s) => s.doc);
  const { setPalette } = use.getState();
  const hand = inHand({ use });
  const said =
    hand.length === 0
      ? 'Nothing in hand'
      : hand.length === 1
        ? '1 part in hand'
        : `${hand.length} parts in hand`;
  return (
    <section className="operations" aria-label="Operations" data-hand={[selected, ...also].join(' ')}>
      <Outcome {...hands} />
      <div className="operations-strip" role="toolbar" aria-label="What can be done with the parts in hand">
        <span className="operations-hand">{said}</span>
        {STRIP.map((command) => (
          <Operation key={command.id} command={command} hands={hands} disabled={hand.length === 0} />
        ))}
        <Button
          size="small"
          type="text"
          className="operation operation-all"
          onClick={() => {
            setPalette(true);
          }}
        >
          All commands …
        </Button>
      </div>
    </section>
  );
});

interface OperationProps {
  readonly command: Command;
  readonly hands: Hands;
  readonly disabled: boolean;
}

const Operation = memo(function Operation({ command, hands, disabled }: OperationProps) {
  const { label, does, keys } = command;
  return (
    <Button
      size="small"
      type="text"
      className="operation"
      disabled={disabled}
      title={`${does}${keys === undefined ? '' : ` (${shownKeys(keys)})`}`}
      onClick={() => {
        command.run(hands);
      }}
    >
      {label}
    </Button>
  );
});

/** What an operation asks, or what it has done besides. */
function Outcome({ use }: Hands) {
  const asked = use((s) => s.asked);
  const told = use((s) => s.told);
  const doc = use((s) => s.doc);
  const hand = inHand({ use });
  const { ask, edit } = use.getState();
  if (asked)
    return (
      <div className="outcome" role="alert">
        <span>{asked.reason}</span>
        {asked.instead.map((change) => (
          <Button
            key={change.label}
            size="small"
            onClick={() => {
              take(use, change);
            }}
          >
            {change.label.replace(/^Put .* into/, 'Into')}
            <span className="outcome-cost">
              {change.moved.length === 0 ? 'nothing moves' : `${change.moved.length} move`}
            </span>
          </Button>
        ))}
        <Button
          size="small"
          type="text"
          onClick={() => {
            ask(undefined);
          }}
        >
          Leave it
        </Button>
      </div>
    );
  const part = hand.length === 1 ? hand[0] : undefined;
  const conflict = part && conflictOf(doc.root, part);
  if (conflict && !told)
    return (
      <div className="outcome" role="alert">
        <span>{conflict.says}</span>
        {conflict.waysOut.map(({ label, step }) => (
          <Button key={label} size="small" onClick={() => edit(label, step)}>
            {label}
          </Button>
        ))}
      </div>
    );
  if (!told) return null;
  const [first] = told.moved;
  const named = told.moved.slice(0, NAMED).map((m) => `“${m.name}” by ${px(m.by)}`);
  const rest = told.moved.length - named.length;
  return (
    <div className="outcome" role="status">
      <span>
        <b>{told.label}.</b>{' '}
        {first
          ? `At ${first.width} it moved ${named.join(', ')}${rest > 0 ? ` and ${rest} more` : ''}.`
          : 'Nothing moved at the drawn widths.'}{' '}
        {told.notes.join(' ')}
      </span>
    </div>
  );
}
