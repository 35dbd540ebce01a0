import { useQuery } from '@tanstack/react-query';
import { Button, Checkbox } from 'antd';
import { useRef, useState, type DragEvent } from 'react';
import {
  MAX_BYTES,
  NO_DECISIONS,
  type Drawing,
  type DrawingDecisions,
  type ScreenFrame,
} from '@tinfold/core/drawing';
import { api } from '../api/client';
import { Cancelled, findFrames, sourceTextOf, startReading, type Job } from '../reading/reader';
import { STAGES } from '../reading/stages';

interface ImportDropProps {
  readonly projectId: string;
  /** Called with the screens that were made. */
  readonly onDone: (screenIds: readonly string[]) => void;
}

interface Taken {
  readonly file: string;
  readonly text: string;
}

type State =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'busy';
      readonly file: string;
      readonly stage: keyof typeof STAGES;
      readonly done: number;
    }
  | { readonly kind: 'asking'; readonly taken: Taken; readonly frames: readonly ScreenFrame[] }
  | { readonly kind: 'failed'; readonly file: string; readonly reason: string };

export const KINDS = '.svg,.pdf,.html,.htm,.json,image/svg+xml,application/pdf,text/html,application/json';
const screenName = (file: string): string => file.replace(/\.(?:svg|pdf|html?|json)$/i, '');

/** Takes a drawing, reads it in a worker and makes a screen of it, or one of each screen that stands in it. */
export function ImportDrop({ projectId, onDone }: ImportDropProps) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const job = useRef<Job<unknown>>(undefined);
  const fonts = useQuery({ queryKey: ['fonts', projectId], queryFn: () => api.fonts(projectId) });

  const guarded = async (file: string, work: () => Promise<void>) => {
    try {
      await work();
    } catch (error) {
      if (error instanceof Cancelled) setState({ kind: 'idle' });
      else {
        const reason = error instanceof Error ? error.message : 'The reading broke off: try again.';
        setState({ kind: 'failed', file, reason });
      }
    }
  };

  /** Reads one screen of a file and keeps it; gives its id. */
  const keep = async ({ file, text }: Taken, name: string, decisions: DrawingDecisions): Promise<string> => {
    const source = { text, name, fonts: fonts.data ?? [] };
    const reading = startReading([{ source, decisions }], ({ stage, done }) => {
      setState({ kind: 'busy', file: name, stage, done });
    });
    job.current = reading;
    const { drawings, structure } = await reading.result;
    const drawing = drawings[0] as Drawing;
    setState({ kind: 'busy', file: name, stage: 'saving', done: 1 });
    const { width, height } = drawing;
    const kept = { name: file, width, height, source: text, decisions };
    return (await api.createScreen(projectId, { name, drawing: kept, structure })).id;
  };

  const take = (file: File) =>
    guarded(file.name, async () => {
      if (file.size > MAX_BYTES)
        throw new Error(
          'The file is over 20 MB: shrink its pictures or split it into one file for each screen.',
        );
      setState({ kind: 'busy', file: file.name, stage: 'opening', done: 0 });
      const opening = sourceTextOf(file);
      job.current = opening;
      const taken = { file: file.name, text: await opening.result };
      const finding = findFrames({ text: taken.text, name: file.name, fonts: [] });
      job.current = finding;
      const frames = await finding.result;
      if (frames.length > 1) {
        setState({ kind: 'asking', taken, frames });
        return;
      }
      const id = await keep(taken, screenName(file.name), NO_DECISIONS);
      setState({ kind: 'idle' });
      onDone([id]);
    });

  const takeFrames = (taken: Taken, frames: readonly ScreenFrame[]) =>
    guarded(taken.file, async () => {
      const ids: string[] = [];
      for (const { name, box } of frames) ids.push(await keep(taken, name, { ...NO_DECISIONS, frame: box }));
      setState({ kind: 'idle' });
      onDone(ids);
    });

  const takeWhole = (taken: Taken) =>
    guarded(taken.file, async () => {
      const id = await keep(taken, screenName(taken.file), NO_DECISIONS);
      setState({ kind: 'idle' });
      onDone([id]);
    });

  const drop = (event: DragEvent) => {
    event.preventDefault();
    setOver(false);
    const [file] = event.dataTransfer.files;
    if (file && state.kind !== 'busy') void take(file);
  };

  return (
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
        accept={KINDS}
        aria-label="Choose a drawing"
        onChange={(e) => {
          const [file] = e.currentTarget.files ?? [];
          e.currentTarget.value = '';
          if (file) void take(file);
        }}
      />
      {state.kind === 'busy' && (
        <div className="drop-busy" role="status">
          <b>{state.file}</b>
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
            <p className="refusal" role="alert">
              <b>{state.file}</b> {state.reason}
            </p>
          )}
          <p>
            Drop a drawing here (SVG, PDF, HTML at fixed positions, or JSON), or{' '}
            <Button type="primary" onClick={() => input.current?.click()}>
              Choose a file
            </Button>
          </p>
        </>
      )}
    </div>
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
