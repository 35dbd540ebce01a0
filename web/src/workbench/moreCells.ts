import {
  formatTrack,
  parseTrack,
  ruleOf,
  type Flow,
  type Parsed,
  type Part,
  type RuleChange,
  type RuleName,
  type Side,
  type Track,
} from '@tinfold/core/model';
import type { CellKind } from './cells';

const flows =
  (...among: readonly Flow[]) =>
  (part: Part): boolean =>
    part.kind === 'container' && among.includes(ruleOf(part.rules, 'flow'));
const inFlow = (_: Part, isRoot: boolean): boolean => !isRoot;
const ok = (value: RuleChange): Parsed<RuleChange> => ({ ok: true, value });
const wrong = (text: string, wanted: string): Parsed<never> => ({
  ok: false,
  reason: `“${text.slice(0, 40)}” is not understood here: type ${wanted}, or nothing.`,
});

/** What a rule's value is called where the list has another word for it. */
const SHOWN: Readonly<Record<string, string>> = { centre: 'middle' };

interface Choice {
  readonly key: string;
  readonly title: string;
  readonly label: string;
  readonly rule: RuleName;
  readonly values: readonly string[];
  readonly applies: CellKind['applies'];
}

/** A cell that takes one of a few words, or nothing. */
function choice({ key, title, label, rule, values, applies }: Choice): CellKind {
  const words = values.map((v) => SHOWN[v] ?? v);
  return {
    key,
    title,
    label,
    words,
    rules: [rule],
    width: 72,
    extra: true,
    show: (p) => {
      const value = p.rules[rule];
      return typeof value === 'string' ? (SHOWN[value] ?? value) : '';
    },
    applies,
    parse: (text) => {
      const word = text.trim().toLowerCase();
      if (word === '') return ok({ [rule]: null });
      const at = words.indexOf(word);
      return at < 0 ? wrong(text, words.join(', ')) : ok({ [rule]: values[at] });
    },
  };
}

/** Tracks one after another, as they are typed; undefined where one is none. */
function tracksIn(text: string): readonly Track[] | undefined {
  const read = text.trim().split(/\s+/).map(parseTrack);
  const tracks = read.flatMap((t) => (t.ok ? [t.value] : []));
  return tracks.length === read.length ? tracks : undefined;
}

const TRACKS = 'tracks like 80 fr 120–240';
const SIDES: readonly Side[] = ['top', 'right', 'bottom', 'left'];
const SPREAD = ['start', 'centre', 'end', 'stretch', 'between', 'around', 'evenly'];
/** An area's name, or a dot for none. */
const AREA = /^(?:\.|[a-z][a-z0-9-]{0,39})$/;

/** Cells of rules that are seldom said, shown where they were chosen. */
export const MORE_CELLS: readonly CellKind[] = [
  choice({
    key: 'lines',
    title: 'Lines',
    label: 'how lines or rows stand in room that they do not fill',
    rule: 'alignLines',
    values: SPREAD,
    applies: flows('wrap', 'grid'),
  }),
  choice({
    key: 'tracks',
    title: 'Tracks',
    label: 'how columns stand in room that they do not fill',
    rule: 'justifyTracks',
    values: SPREAD,
    applies: flows('grid'),
  }),
  choice({
    key: 'items',
    title: 'Across',
    label: 'how parts stand across their columns',
    rule: 'justifyItems',
    values: ['start', 'centre', 'end'],
    applies: flows('grid'),
  }),
  choice({
    key: 'across',
    title: 'Own across',
    label: 'how it stands across its column',
    rule: 'justifySelf',
    values: ['start', 'centre', 'end'],
    applies: inFlow,
  }),
  choice({
    key: 'filled',
    title: 'Filled by',
    label: 'whether rows or columns are filled first',
    rule: 'autoFlow',
    values: ['row', 'column'],
    applies: flows('grid'),
  }),
  choice({
    key: 'direction',
    title: 'Reads',
    label: 'which way lines run in it',
    rule: 'direction',
    values: ['ltr', 'rtl'],
    applies: () => true,
  }),
  {
    key: 'rows',
    title: 'Rows',
    label: 'rows of a grid',
    rules: ['rows'],
    width: 96,
    extra: true,
    show: (p) => (p.rules.rows ?? []).map(formatTrack).join(' '),
    applies: flows('grid'),
    parse: (text) => {
      if (text.trim() === '') return ok({ rows: null });
      const rows = tracksIn(text);
      return rows ? ok({ rows }) : wrong(text, TRACKS);
    },
  },
  {
    key: 'further',
    title: 'Further rows',
    label: 'rows beyond those that are named',
    rules: ['autoRows'],
    width: 84,
    extra: true,
    show: (p) => (p.rules.autoRows ? formatTrack(p.rules.autoRows) : ''),
    applies: flows('grid'),
    parse: (text) => {
      if (text.trim() === '') return ok({ autoRows: null });
      const [track, ...others] = tracksIn(text) ?? [];
      return track && others.length === 0
        ? ok({ autoRows: track })
        : wrong(text, 'one track like 80, fr or fit');
    },
  },
  {
    key: 'areas',
    title: 'Areas',
    label: 'names of a grid’s areas, its lines parted by strokes',
    rules: ['areas'],
    width: 120,
    extra: true,
    show: (p) => (p.rules.areas ?? []).map((line) => line.join(' ')).join(' / '),
    applies: flows('grid'),
    parse: (text) => {
      if (text.trim() === '') return ok({ areas: null });
      const areas = text.split('/').map((line) => line.trim().toLowerCase().split(/\s+/));
      return areas.every((line) => line.every((name) => AREA.test(name)))
        ? ok({ areas })
        : wrong(text, 'names like head head / side main, a dot for none');
    },
  },
  {
    key: 'safe',
    title: 'Safe area',
    label: 'sides on which it keeps clear of the device’s own edges',
    rules: ['safeArea'],
    width: 84,
    extra: true,
    show: (p) => (p.rules.safeArea ?? []).join(' '),
    applies: (p) => p.kind === 'container',
    parse: (text) => {
      const words = text
        .trim()
        .toLowerCase()
        .split(/[\s,]+/)
        .filter(Boolean);
      if (words.length === 0) return ok({ safeArea: null });
      const sides = SIDES.filter((s) => words.includes(s));
      return sides.length === new Set(words).size ? ok({ safeArea: sides }) : wrong(text, SIDES.join(', '));
    },
  },
  {
    key: 'most',
    title: 'At most',
    label: 'lines that a text shows at the most',
    rules: ['maxLines'],
    width: 60,
    extra: true,
    show: (p) => (p.rules.maxLines === undefined ? '' : String(p.rules.maxLines)),
    applies: (p) => p.kind === 'text',
    parse: (text) => {
      if (text.trim() === '') return ok({ maxLines: null });
      return /^[1-9]\d{0,3}$/.test(text.trim())
        ? ok({ maxLines: Number(text) })
        : wrong(text, 'a whole number from 1');
    },
  },
];
