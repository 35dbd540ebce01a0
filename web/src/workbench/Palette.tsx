import { Input, Modal } from 'antd';
import { memo, useState, type KeyboardEvent } from 'react';
import { COMMANDS, shownKeys, type Command, type Hands } from './commands';

/** The commands in whose words all typed words begin somewhere. */
export function commandsFor(typed: string): readonly Command[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return COMMANDS.filter((c) => {
    const said = `${c.label} ${c.does}`.toLowerCase();
    return words.every((w) => said.includes(w));
  });
}

/** All commands with their keys: typed for, chosen by arrows and Enter. */
export const Palette = memo(function Palette(hands: Hands) {
  const { use } = hands;
  const open = use((s) => s.palette);
  const { setPalette } = use.getState();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const found = commandsFor(typed);
  const close = () => {
    setPalette(false);
    setTyped('');
    setAt(0);
  };
  const run = (command: Command | undefined) => {
    if (!command) return;
    close();
    if (command.id !== 'palette') command.run(hands);
  };
  const keys = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === 'Escape') close();
    const by = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
    if (by !== 0) setAt((now) => Math.min(found.length - 1, Math.max(0, now + by)));
    else if (event.key === 'Enter') run(found[at]);
    else return;
    event.preventDefault();
  };
  return (
    <Modal
      open={open}
      onCancel={close}
      footer={null}
      closable={false}
      width={620}
      title="All commands"
      destroyOnHidden
    >
      <div onKeyDown={keys} className="palette">
        <Input
          autoFocus
          value={typed}
          placeholder="Type what you want to do"
          aria-label="Type what you want to do"
          aria-controls="palette-list"
          aria-activedescendant={found[at] ? `palette-${found[at].id}` : undefined}
          onChange={(e) => {
            setTyped(e.currentTarget.value);
            setAt(0);
          }}
        />
        <ul id="palette-list" role="listbox" tabIndex={0} aria-label="Commands">
          {found.map((command, i) => (
            <li
              key={command.id}
              id={`palette-${command.id}`}
              role="option"
              aria-selected={i === at}
              ref={(row) => {
                if (i === at) row?.scrollIntoView({ block: 'nearest' });
              }}
              onPointerDown={() => {
                run(command);
              }}
            >
              <b>{command.label}</b>
              <span>{command.does}</span>
              {command.keys !== undefined && <kbd>{shownKeys(command.keys)}</kbd>}
            </li>
          ))}
          {found.length === 0 && <li className="palette-none">No command has these words: try another.</li>}
        </ul>
      </div>
    </Modal>
  );
});
