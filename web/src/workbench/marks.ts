import { partsById, round, walk, type Part, type Structure } from '@tinfold/core/model';
import { conflictOf } from './conflicts';
import type { Known } from './rows';

/** What is noted beside a part's name. */
export interface Mark {
  readonly kind: 'changed' | 'answered' | 'token' | 'conflict' | 'differs';
  /** What it says when it is pointed at. */
  readonly says: string;
}

const written = new WeakMap<Part, string>();

/** What a part says, in writing; written once, since it is asked of all parts after each edit. */
function said(part: Part): string {
  const { rules, below, wide, content } = part;
  const known = written.get(part) ?? JSON.stringify([rules, below ?? [], wide ?? null, content ?? null]);
  written.set(part, known);
  return known;
}

/** The parts that say something else than when the drawing was read, or that were made since. */
export function changedSince(root: Part, asRead: Structure | null): ReadonlySet<string> {
  if (!asRead) return new Set();
  const before = partsById(asRead.root);
  return new Set(
    [...walk(root)].flatMap((part) => {
      const read = before.get(part.id);
      return read !== undefined && (read === part || said(read) === said(part)) ? [] : [part.id];
    }),
  );
}

/** What there is to note about a part. */
export function marksOf(
  root: Part,
  part: Part,
  { changed, differs }: Pick<Known, 'changed' | 'differs'>,
): readonly Mark[] {
  const astray = differs.get(part.id);
  const conflict = conflictOf(root, part);
  const tokens = [...new Set(Object.values(part.bound ?? {}))];
  return [
    ...(conflict ? [{ kind: 'conflict', says: conflict.says } as const] : []),
    ...(astray
      ? [
          {
            kind: 'differs',
            says: `At ${astray.width} it stands ${round(astray.by, 1)} px from where it was drawn`,
          } as const,
        ]
      : []),
    ...(changed.has(part.id)
      ? [{ kind: 'changed', says: 'Set by hand since it was read from the drawing' } as const]
      : []),
    ...((part.answered ?? []).length > 0
      ? [{ kind: 'answered', says: 'A question about it was answered' } as const]
      : []),
    ...(tokens.length > 0
      ? [
          {
            kind: 'token',
            says: `Takes ${tokens.length === 1 ? 'the token' : 'the tokens'} ${tokens.join(', ')}`,
          } as const,
        ]
      : []),
  ];
}
