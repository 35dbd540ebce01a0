import { NO_DECISIONS, type Drawing, type DrawingDecisions } from '@tinfold/core/drawing';
import { carryOver } from '@tinfold/core/infer';
import { api, type NewDrawing, type ScreenDetail } from '../api/client';
import { fileOf, startReading, type Job } from './reader';
import type { STAGES } from './stages';

/** What changes about a screen's drawings before they are read again. */
export type Change =
  | { readonly kind: 'decisions'; readonly drawing: string; readonly value: DrawingDecisions }
  | { readonly kind: 'added'; readonly file: string; readonly text: string }
  | { readonly kind: 'removed'; readonly drawing: string };

/** A reading of all drawings of a screen under way. */
export interface Rereading {
  /** Sentences for what was set and has no place any more, and the width of a drawing that was added. */
  readonly result: Promise<{ readonly lost: readonly string[]; readonly width?: number }>;
  cancel(): void;
}

const newDrawing = (
  { file, text }: { readonly file: string; readonly text: string },
  { width, height }: Drawing,
): NewDrawing => ({ name: file, width, height, source: text });

/** Reads a screen's drawings again with a change, puts on what the designer has set, and keeps the result. */
export function reread(
  screen: ScreenDetail,
  change: Change,
  tell: (stage: keyof typeof STAGES) => void,
): Rereading {
  let job: Job<unknown> | undefined;
  const read = async (files: Parameters<typeof startReading>[0]) => {
    const reading = startReading(files, ({ stage }) => {
      tell(stage);
    });
    job = reading;
    const { drawings, structure } = await reading.result;
    return { drawings, structure: { ...structure, name: screen.name } };
  };
  const { fonts } = screen;
  const before = screen.drawings.map((d) => fileOf(d, fonts));
  const files =
    change.kind === 'decisions'
      ? screen.drawings.map((d) => ({
          ...fileOf(d, fonts),
          ...(d.id === change.drawing && { decisions: change.value }),
        }))
      : change.kind === 'removed'
        ? screen.drawings.filter((d) => d.id !== change.drawing).map((d) => fileOf(d, fonts))
        : [...before, { source: { text: change.text, name: change.file, fonts }, decisions: NO_DECISIONS }];
  const run = async () => {
    tell('opening');
    const { drawings, structure: asRead } = await read(files);
    const added = change.kind === 'added' ? drawings.at(-1) : undefined;
    const carried =
      screen.structure &&
      carryOver(screen.asRead ?? (await read(before)).structure, screen.structure, asRead);
    tell('saving');
    await api.writeStructure(screen.id, screen.revision, {
      structure: carried?.structure ?? asRead,
      asRead,
      ...(change.kind === 'decisions' && { decisions: { drawing: change.drawing, value: change.value } }),
      ...(change.kind === 'removed' && { removed: change.drawing }),
      ...(change.kind === 'added' && added && { added: newDrawing(change, added) }),
    });
    return { lost: carried?.lost ?? [], ...(added && { width: added.width }) };
  };
  return { result: run(), cancel: () => job?.cancel() };
}
