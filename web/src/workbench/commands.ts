import {
  addSpacer,
  asBackground,
  breakAway,
  declarePattern,
  dissolve,
  duplicate,
  erase,
  gather,
  inShares,
  join,
  lockRatio,
  moveInto,
  moveInward,
  oneLess,
  oneMore,
  onEach,
  pinOut,
  putBack,
  scaleSpaces,
  shift,
  splitBefore,
  standIn,
  takeOut,
  withColumns,
  type Answer,
  type Bench,
} from '@tinfold/core/edit';
import { findPart, standing, type Flow, type Part, type Structure } from '@tinfold/core/model';
import type { PartReading } from '@tinfold/core/infer';
import { copiesOf } from './rows';
import { mergeInHand } from './merging';
import { take } from './taken';
import { frameOf, holdingEverywhere, isWide, settingOf } from './said';
import type { WorkbenchStore } from './store';

/** What commands work on. */
export interface Hands {
  readonly use: WorkbenchStore;
  readonly bench: Bench;
  /** Reads what is in a part again from its drawing. */
  readonly read: (doc: Structure, id: string) => PartReading;
}

/** Something that can be done, by its button, its keys or the list of all commands. */
export interface Command {
  readonly id: string;
  /** What a button says. */
  readonly label: string;
  /** What the list of commands says besides. */
  readonly does: string;
  /** As `KeyboardEvent.key` with the modifiers before it, as `Alt+g`. */
  readonly keys?: string;
  /** Whether it stands in the strip below the parts list. */
  readonly inStrip?: boolean;
  readonly run: (hands: Hands) => void;
}

/** The parts in hand, in the order of the document. */
export function inHand({ use }: Pick<Hands, 'use'>): readonly Part[] {
  const { doc, selected, also } = use.getState();
  const ids = selected === undefined ? [] : [selected, ...also];
  return ids.flatMap((id) => findPart(doc.root, id) ?? []);
}

/** Puts a part into a container, before so many of its others; within a pattern each copy goes into its own copy of it. */
export function putInto(use: WorkbenchStore, bench: Bench, id: string, parent: string, at: number): void {
  const { doc } = use.getState();
  const [copies, parents] = [copiesOf(doc.root, id), copiesOf(doc.root, parent)];
  const pairs =
    copies.length === parents.length ? copies.map((c, i) => [c, parents[i] ?? parent]) : [[id, parent]];
  take(
    use,
    onEach(doc, pairs, bench, (now, [part = id, into = parent], on) => moveInto(now, part, into, on, at)),
  );
}

const NOTHING_IN_HAND = 'Choose a part first: a row of the parts list, or something on a sheet.';

/** An operation on the part in hand, in all copies of its pattern. */
const onOne =
  (operation: (doc: Structure, id: string, bench: Bench) => Answer) =>
  ({ use, bench }: Hands): void => {
    const { doc, selected, refuse } = use.getState();
    if (selected === undefined) {
      refuse(NOTHING_IN_HAND);
      return;
    }
    const ids = copiesOf(doc.root, selected);
    take(use, onEach(doc, ids, bench, operation));
  };

/** An operation on all parts in hand, in all copies of their pattern. */
const onAll =
  (operation: (doc: Structure, ids: readonly string[], bench: Bench) => Answer) =>
  ({ use, bench }: Hands): void => {
    const { doc, refuse } = use.getState();
    const hand = inHand({ use });
    if (hand.length === 0) {
      refuse('Choose the parts first: rows of the parts list, or things on a sheet.');
      return;
    }
    const copies = hand.map((p) => copiesOf(doc.root, p.id));
    const alike = copies.every((c) => c.length === copies[0]?.length);
    const places = alike
      ? (copies[0] ?? []).map((_, i) => [...new Set(copies.map((c) => c[i] as string))])
      : [hand.map((p) => p.id)];
    take(use, onEach(doc, places, bench, operation));
  };

/** An operation on the part in hand alone, whatever pattern it is in. */
const onThis =
  (operation: (doc: Structure, id: string, bench: Bench) => Answer) =>
  ({ use, bench }: Hands): void => {
    const { doc, selected, refuse } = use.getState();
    if (selected === undefined) refuse(NOTHING_IN_HAND);
    else take(use, operation(doc, selected, bench));
  };

const together = (flow: Flow, word: string): Command => ({
  id: `together-${flow}`,
  label: `Into a ${word}`,
  does: `put the parts in hand into a ${word}`,
  run: onAll((doc, ids, bench) => gather(doc, ids, bench, flow)),
});

const hide = ({ use }: Hands): void => {
  const { doc, edit, refuse } = use.getState();
  const hand = inHand({ use });
  if (hand.length === 0) {
    refuse('Choose the parts that are to be hidden.');
    return;
  }
  const now = standing(doc, frameOf(use.getState()));
  const hidden = hand.every((p) => findPart(now, p.id)?.rules.hidden);
  const parts = hand.flatMap((p) => copiesOf(doc.root, p.id));
  edit(
    `${hidden ? 'Show' : 'Hide'} ${hand.length === 1 ? `“${hand[0]?.name ?? ''}”` : `${hand.length} parts`}`,
    settingOf(use.getState(), hand[0]?.id ?? '', parts, { hidden: hidden ? null : true }),
  );
};

/** One column more or less of the grid in hand. */
const columnsBy = (id: string, label: string, does: string, by: 1 | -1): Command => ({
  id,
  label,
  does,
  run: ({ use }) => {
    const { doc, selected, edit, refuse } = use.getState();
    const part = findPart(standing(doc, frameOf(use.getState())), selected ?? '');
    const columns = part?.rules.flow === 'grid' ? withColumns(part.rules.columns, by) : undefined;
    if (!part || !columns) {
      refuse(
        'Choose a grid with columns of its own; one that repeats them has as many as there is room for.',
      );
      return;
    }
    edit(
      `${label} in “${part.name}”`,
      settingOf(use.getState(), part.id, copiesOf(doc.root, part.id), { columns }),
    );
  },
});

/** Everything that can be done to a structure by hand. */
export const COMMANDS: readonly Command[] = [
  {
    id: 'together',
    label: 'Put together',
    does: 'put the parts in hand into a container, as they lie',
    keys: 'Alt+g',
    inStrip: true,
    run: onAll((doc, ids, bench) => gather(doc, ids, bench)),
  },
  together('column', 'column'),
  together('row', 'row'),
  together('wrap', 'wrap'),
  together('grid', 'grid'),
  together('free', 'free container'),
  {
    id: 'dissolve',
    label: 'Dissolve',
    does: 'take the container away; its parts stay where they are',
    keys: 'Alt+u',
    inStrip: true,
    run: onOne(dissolve),
  },
  {
    id: 'out',
    label: 'Take out',
    does: 'take the part out of its container, to stand after it',
    keys: 'Alt+ArrowLeft',
    inStrip: true,
    run: onOne(takeOut),
  },
  {
    id: 'in',
    label: 'Move in',
    does: 'move the part into the container before it',
    keys: 'Alt+ArrowRight',
    run: onOne(moveInward),
  },
  {
    id: 'forward',
    label: 'Move forward',
    does: 'let the part stand before the one that it follows',
    keys: 'Alt+ArrowUp',
    run: onOne((doc, id, bench) => shift(doc, id, -1, bench)),
  },
  {
    id: 'back',
    label: 'Move back',
    does: 'let the part stand after the one that follows it',
    keys: 'Alt+ArrowDown',
    run: onOne((doc, id, bench) => shift(doc, id, 1, bench)),
  },
  {
    id: 'split',
    label: 'Split here',
    does: 'split the container before the part in hand',
    inStrip: true,
    run: onOne(splitBefore),
  },
  { id: 'join', label: 'Join', does: 'join the containers in hand into the first', run: onAll(join) },
  {
    id: 'pin',
    label: 'Pin',
    does: 'take the part out of the flow, pinned to the edges that it is near to',
    keys: 'Alt+p',
    inStrip: true,
    run: onOne(pinOut),
  },
  {
    id: 'unpin',
    label: 'Back into the flow',
    does: 'put the pinned part back into the flow, where it stands',
    keys: 'Alt+b',
    run: onOne(putBack),
  },
  {
    id: 'stay',
    label: 'Stay at the top',
    does: 'let the part stay in sight at the top while the rest scrolls, or scroll again',
    run: ({ use }) => {
      const { doc, selected, edit, refuse } = use.getState();
      const part = selected === undefined ? undefined : findPart(doc.root, selected);
      if (!part || part === doc.root) {
        refuse(NOTHING_IN_HAND);
        return;
      }
      const stays = part.rules.stay !== undefined;
      edit(
        stays ? `“${part.name}” scrolls` : `“${part.name}” stays at the top`,
        settingOf(use.getState(), part.id, [part.id], {
          stay: stays ? null : { side: 'top', at: 0 },
        }),
      );
    },
  },
  {
    id: 'background',
    label: 'As background',
    does: 'make the shape in hand the background of what lies on it',
    run: onOne(asBackground),
  },
  {
    id: 'stand-in',
    label: 'One for the other',
    does: 'let the second of two parts in hand stand in for the first in frames narrower than the caliper stands',
    run: ({ use, bench }) => {
      const { doc, selected, also, frameWidth, holds } = use.getState();
      const ids = selected === undefined ? [] : [selected, ...also];
      take(use, standIn(doc, ids, holds ?? frameWidth, bench));
    },
  },
  {
    id: 'merge-cells',
    label: 'One area',
    does: 'make the cells of a grid in which the parts in hand stand one area',
    run: ({ use, bench }) => {
      mergeInHand(use, bench);
    },
  },
  columnsBy('column-more', 'One more column', 'a column like the last after it', 1),
  columnsBy('column-less', 'One column less', 'take the last column away', -1),
  {
    id: 'ratio',
    label: 'Keep ratio',
    does: 'let the height follow the width in the ratio that it has',
    run: onOne(lockRatio),
  },
  {
    id: 'shares',
    label: 'In shares',
    does: 'turn px into shares for the part and all that is in it, so that it scales',
    run: onOne((doc, id, bench) => inShares(doc, id, bench)),
  },
  {
    id: 'px',
    label: 'In px',
    does: 'turn shares back into px for the part and all that is in it',
    run: onOne((doc, id, bench) => inShares(doc, id, bench, true)),
  },
  {
    id: 'gaps-half',
    label: 'Halve gaps',
    does: 'halve all gaps in the part',
    run: onOne((doc, id, bench) => scaleSpaces(doc, id, 'gaps', 0.5, bench)),
  },
  {
    id: 'gaps-double',
    label: 'Double gaps',
    does: 'double all gaps in the part',
    run: onOne((doc, id, bench) => scaleSpaces(doc, id, 'gaps', 2, bench)),
  },
  {
    id: 'padding-half',
    label: 'Halve padding',
    does: 'halve the four paddings of the part',
    run: onOne((doc, id, bench) => scaleSpaces(doc, id, 'padding', 0.5, bench)),
  },
  {
    id: 'padding-double',
    label: 'Double padding',
    does: 'double the four paddings of the part',
    run: onOne((doc, id, bench) => scaleSpaces(doc, id, 'padding', 2, bench)),
  },
  {
    id: 'spacer',
    label: 'Spacer',
    does: 'an empty part after this one that takes what room is left',
    run: onOne(addSpacer),
  },
  {
    id: 'hide',
    label: 'Hide or show',
    does: 'hide the parts in hand, or show them again',
    keys: 'Alt+h',
    run: hide,
  },
  {
    id: 'copy',
    label: 'Copy',
    does: 'a copy of the part after it',
    keys: 'Alt+c',
    inStrip: true,
    run: onOne(duplicate),
  },
  {
    id: 'away',
    label: 'Take away',
    does: 'take the parts in hand away with all that is in them',
    keys: 'Delete',
    inStrip: true,
    run: onAll(erase),
  },
  {
    id: 'pattern',
    label: 'Make one pattern',
    does: 'make the parts in hand copies of one: what is set on one is set on all',
    keys: 'Alt+m',
    run: ({ use, bench }) => {
      const { doc } = use.getState();
      take(
        use,
        declarePattern(
          doc,
          // A row that stands for copies stands for all of them.
          [...new Set(inHand({ use }).flatMap((p) => copiesOf(doc.root, p.id)))],
          bench,
        ),
      );
    },
  },
  {
    id: 'own',
    label: 'On its own',
    does: 'break the copy in hand away from its pattern, so that it can differ in everything',
    keys: 'Alt+o',
    run: onThis(breakAway),
  },
  {
    id: 'one-more',
    label: 'One more',
    does: 'one more copy of the pattern, to see what the screen does',
    run: onThis(oneMore),
  },
  { id: 'one-less', label: 'One less', does: 'one copy less of the pattern', run: onThis(oneLess) },
  {
    id: 'read-again',
    label: 'Read again from here',
    does: 'read what is in the part again from the drawing; what was set in it goes',
    run: ({ use, read }) => {
      const { doc, selected, edit, refuse } = use.getState();
      const reading = selected === undefined ? undefined : read(doc, selected);
      if (!reading) refuse('Choose the container that is to be read again.');
      else if ('reason' in reading) refuse(reading.reason);
      else edit(reading.label, reading.step);
    },
  },
  {
    id: 'from-here',
    label: 'From here down',
    does: 'let edits hold only in frames narrower than the caliper stands, or everywhere again',
    keys: 'Alt+n',
    run: ({ use }) => {
      const { holds, frameWidth, setHolds } = use.getState();
      setHolds(holds === undefined ? frameWidth : undefined);
    },
  },
  {
    id: 'wide',
    label: 'Where it is wider than high',
    does: 'let edits hold only in frames that are wider than high, or everywhere again',
    run: ({ use }) => {
      const state = use.getState();
      if (state.holds === 'wide') state.setHolds(undefined);
      else if (isWide(frameOf(state))) state.setHolds('wide');
      else
        state.refuse('Type a height above the sheet that is less than the frame is wide: then it is seen.');
    },
  },
  {
    id: 'everywhere',
    label: 'Hold everywhere',
    does: 'let what the part says at this width hold in all frames',
    run: ({ use }) => {
      const { selected, doc, edit, refuse } = use.getState();
      const part = selected === undefined ? undefined : findPart(doc.root, selected);
      const step = part && holdingEverywhere(part, frameOf(use.getState()));
      if (part && step) edit(`Rules of “${part.name}” hold everywhere`, step);
      else refuse('The part in hand says nothing at this width that it does not say in all frames.');
    },
  },
  {
    id: 'undo',
    label: 'Undo',
    does: 'take the last edit back',
    keys: 'Ctrl+z',
    run: ({ use }) => {
      use.getState().undoEdit();
    },
  },
  {
    id: 'redo',
    label: 'Redo',
    does: 'do again what was taken back',
    keys: 'Ctrl+Shift+z',
    run: ({ use }) => {
      use.getState().redoEdit();
    },
  },
  {
    id: 'palette',
    label: 'All commands',
    does: 'this list',
    keys: 'Ctrl+.',
    run: ({ use }) => {
      use.getState().setPalette(true);
    },
  },
];

/** Keys as they are written: `Alt+g`. */
export const keysOf = (
  event: Pick<KeyboardEvent, 'key' | 'altKey' | 'ctrlKey' | 'metaKey' | 'shiftKey'>,
): string =>
  [
    event.ctrlKey || event.metaKey ? 'Ctrl+' : '',
    event.altKey ? 'Alt+' : '',
    event.shiftKey && event.key.length > 1 ? 'Shift+' : event.shiftKey && event.ctrlKey ? 'Shift+' : '',
    event.key.length === 1 ? event.key.toLowerCase() : event.key,
  ].join('');

const ARROWS: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
};

/** Keys as they are shown: `Alt G`. */
export const shownKeys = (keys: string): string =>
  keys
    .split('+')
    .map((k) => ARROWS[k] ?? (k.length === 1 ? k.toUpperCase() : k))
    .join(' ');
