import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Button, Checkbox } from 'antd';
import { useRef, useState, type DragEvent } from 'react';
import {
  MAX_BYTES,
  NO_DECISIONS,
  type Drawing,
  type DrawingDecisions,
  type ScreenFrame,
} from '@tinfold/core/drawing';
import { namedAsScreen } from '@tinfold/core/infer';
import { api } from '../api/client';
import { Cancelled, findFrames, sourceTextOf, startReading, type Job } from '../reading/reader';
import { STAGES } from '../reading/stages';
import { Samples } from './Samples';

interface ImportDropProps {
  readonly projectId: string;
  /** Whether the project has no screen yet: drawings of ours are offered then. */
  readonly isEmpty: boolean;
  /** Called with the screens that were made. */
  readonly onDone: (screenIds: readonly string[]) => void;
}

interface Taken {
  readonly file: string;
  readonly text: string;
}

interface Failure {
  readonly file: string;
  readonly reason: string;
}

type State =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'busy';
      readonly file: string;
      readonly stage: keyof typeof STAGES;
      readonly done: number;
      /** Of several files, which one and how many there are. */
      readonly at?: number;
      readonly files?: number;
    }
  | { readonly kind: 'asking'; readonly taken: Taken; readonly frames: readonly ScreenFrame[] }
  | { readonly kind: 'failed'; readonly failures: readonly Failure[] };

export const KINDS = '.svg,.pdf,.html,.htm,.json,image/svg+xml,application/pdf,text/html,application/json';

/** Takes a drawing, reads it in a worker and makes a screen of it, or one of each screen that stands in it. */
export function ImportDrop({ projectId, isEmpty, onDone }: ImportDropProps) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const job = useRef<Job<unknown>>(undefined);
  const of = useRef<{ readonly at?: number; readonly files?: number }>({});
  const client = useQueryClient();
  const fonts = useQuery({ queryKey: ['fonts', projectId], queryFn: () => api.fonts(projectId) });

  /** What went wrong, as the file's own failure; undefined where it was stopped. */
  const failureOf = (file: string, error: unknown): Failure | undefined =>
    error instanceof Cancelled
      ? undefined
      : { file, reason: error instanceof Error ? error.message : 'The reading broke off: try again.' };

  const guarded = async (file: string, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      const failure = failureOf(file, error);
      setState(failure ? { kind: 'failed', failures: [failure] } : { kind: 'idle' });
    }
  };

  /** Reads one screen of a file and keeps it; gives its id. Without a name it gets that of its title, its file or its heading. */
  const keep = async ({ file, text }: Taken, decisions: DrawingDecisions, own?: string): Promise<string> => {
    const source = { text, name: own ?? file, fonts: fonts.data ?? [] };
    const reading = startReading([{ source, decisions }], ({ stage, done }) => {
      setState({ kind: 'busy', file: own ?? file, stage, done, ...of.current });
    });
    job.current = reading;
    const { drawings, structure: read } = await reading.result;
    const drawing = drawings[0] as Drawing;
    const structure = namedAsScreen(read, file, text, own);
    const { name } = structure;
    setState({ kind: 'busy', file: own ?? file, stage: 'saving', done: 1, ...of.current });
    const { width, height } = drawing;
    const kept = { name: file, width, height, source: text, decisions };
    return (await api.createScreen(projectId, { name, drawing: kept, structure })).id;
  };

  /** The text of a file, a PDF as SVG. */
  const textOf = async (file: File): Promise<string> => {
    if (file.size > MAX_BYTES)
      throw new Error(
        'The file is over 20 MB: shrink its pictures or split it into one file for each screen.',
      );
    setState({ kind: 'busy', file: file.name, stage: 'opening', done: 0, ...of.current });
    const opening = sourceTextOf(file, fonts.data ?? []);
    job.current = opening;
    return opening.result;
  };

  /** Opens a file and finds the screens that stand in it. */
  const open = async (file: File): Promise<{ taken: Taken; frames: readonly ScreenFrame[] }> => {
    const taken = { file: file.name, text: await textOf(file) };
    const finding = findFrames({ text: taken.text, name: file.name, fonts: [] });
    job.current = finding;
    return { taken, frames: await finding.result };
  };

  const take = (file: File) =>
    guarded(file.name, async () => {
      of.current = {};
      const { taken, frames } = await open(file);
      if (frames.length > 1) {
        setState({ kind: 'asking', taken, frames });
        return;
      }
      const id = await keep(taken, NO_DECISIONS);
      setState({ kind: 'idle' });
      onDone([id]);
    });

  /** Puts several files in line: they are read beside, one screen for each that stands in them, and the list of work tells of them. */
  const takeAll = async (files: readonly File[]) => {
    const failures: Failure[] = [];
    for (const [i, file] of files.entries()) {
      of.current = { at: i + 1, files: files.length };
      try {
        await api.readFile(projectId, file.name, await textOf(file));
        await client.invalidateQueries({ queryKey: ['jobs', projectId] });
      } catch (error) {
        const failure = failureOf(file.name, error);
        if (!failure) break;
        failures.push(failure);
      }
    }
    setState(failures.length > 0 ? { kind: 'failed', failures } : { kind: 'idle' });
  };
  const takeFiles = (files: readonly File[]) => {
    const [first] = files;
    if (first) void (files.length === 1 ? take(first) : takeAll(files));
  };

  const takeFrames = (taken: Taken, frames: readonly ScreenFrame[]) =>
    guarded(taken.file, async () => {
      const ids: string[] = [];
      for (const { name, box } of frames) ids.push(await keep(taken, { ...NO_DECISIONS, frame: box }, name));
      setState({ kind: 'idle' });
      onDone(ids);
    });

  const takeWhole = (taken: Taken) =>
    guarded(taken.file, async () => {
      const id = await keep(taken, NO_DECISIONS);
      setState({ kind: 'idle' });
      onDone([id]);
    });

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    if (state.kind !== 'busy') takeFiles([...event.dataTransfer.files]);
  };

  const place = (
    <div
      className={`drop${over ? ' drop-over' : ''}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => {
        setOver(false);
      }}
      onDrop={drop}
    >
      <input
        ref={input}
        type="file"
        multiple
        accept={KINDS}
        aria-label="Choose a drawing"
        onChange={(e) => {
          const files = [...(e.currentTarget.files ?? [])];
          e.currentTarget.value = '';
          takeFiles(files);
        }}
      />
      {state.kind === 'busy' && (
        <div className="drop-busy" role="status">
          <b>
            {state.file}
            {state.files !== undefined && ` · ${state.at} of ${state.files}`}
          </b>
          <progress value={state.done} max={1} aria-label="Reading" />
          <span>{STAGES[state.stage]} …</span>
          <Button size="small" onClick={() => job.current?.cancel()}>
            Stop
          </Button>
        </div>
      )}
      {state.kind === 'asking' && (
        <FrameChoice
          file={state.taken.file}
          frames={state.frames}
          onTake={(frames) => void takeFrames(state.taken, frames)}
          onWhole={() => void takeWhole(state.taken)}
          onCancel={() => {
            setState({ kind: 'idle' });
          }}
        />
      )}
      {(state.kind === 'idle' || state.kind === 'failed') && (
        <>
          {state.kind === 'failed' && (
            <div className="drop-failures" role="alert">
              {state.failures.map(({ file, reason }) => (
                <p key={file} className="refusal">
                  <b>{file}</b> {reason}
                </p>
              ))}
            </div>
          )}
          <p>
            Drop one or more drawings here (SVG, PDF, HTML or JSON), or{' '}
            <Button type="primary" onClick={() => input.current?.click()}>
              Choose files
            </Button>
          </p>
        </>
      )}
    </div>
  );
  return (
    <>
      {place}
      {isEmpty && state.kind !== 'busy' && state.kind !== 'asking' && (
        <Samples onTake={(file) => void take(file)} />
      )}
    </>
  );
}

interface FrameChoiceProps {
  readonly file: string;
  readonly frames: readonly ScreenFrame[];
  readonly onTake: (frames: readonly ScreenFrame[]) => void;
  readonly onWhole: () => void;
  readonly onCancel: () => void;
}

/** A file that holds several screens: which of them are to be taken. */
function FrameChoice({ file, frames, onTake, onWhole, onCancel }: FrameChoiceProps) {
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const chosen = frames.filter((_, i) => !left.has(i));
  const tallest = Math.max(...frames.map((f) => f.box.height));
  const scale = Math.min(120 / tallest, 0.12);
  return (
    <div className="frames" role="group" aria-label="Screens in the file">
      <p>
        <b>{file}</b> holds {frames.length} screens side by side.
      </p>
      <ul>
        {frames.map(({ name, box }, i) => (
          <li key={i}>
            <span className="frame-shape" style={{ width: box.width * scale, height: box.height * scale }} />
            <Checkbox
              checked={!left.has(i)}
              onChange={(e) => {
                const next = new Set(left);
                if (e.target.checked) next.delete(i);
                else next.add(i);
                setLeft(next);
              }}
            >
              {name}
            </Checkbox>
            <span className="frame-size">
              {Math.round(box.width)} × {Math.round(box.height)}
            </span>
          </li>
        ))}
      </ul>
      <div className="frames-acts">
        <Button
          type="primary"
          disabled={chosen.length === 0}
          onClick={() => {
            onTake(chosen);
          }}
        >
          {chosen.length === 1 ? 'Read this screen' : `Read these ${chosen.length} screens`}
        </Button>
        <Button onClick={onWhole}>Take the file as one screen</Button>
        <Button type="text" onClick={onCancel}>
          Cancel
        </Button>
      </div>
    </div>
  );
}
