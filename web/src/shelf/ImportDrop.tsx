import { Button } from 'antd';
import { useRef, useState, type DragEvent } from 'react';
import { MAX_BYTES, NO_DECISIONS } from '@tinfold/core/drawing';
import { api } from '../api/client';
import { Cancelled, startReading, type Job } from '../reading/reader';
import { STAGES } from '../reading/stages';
import type { ReadResult } from '../reading/reading.worker';

interface ImportDropProps {
  readonly projectId: string;
  readonly onDone: (screenId: string) => void;
}

type State =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'busy';
      readonly file: string;
      readonly stage: keyof typeof STAGES;
      readonly done: number;
    }
  | { readonly kind: 'failed'; readonly file: string; readonly reason: string };

/** Takes an SVG file, reads it in a worker and makes a screen of it. */
export function ImportDrop({ projectId, onDone }: ImportDropProps) {
  const [state, setState] = useState<State>({ kind: 'idle' });
  const [over, setOver] = useState(false);
  const input = useRef<HTMLInputElement>(null);
  const job = useRef<Job<ReadResult>>(undefined);

  const take = async (file: File) => {
    const fail = (reason: string) => {
      setState({ kind: 'failed', file: file.name, reason });
    };
    if (file.size > MAX_BYTES) {
      fail('The file is over 20 MB: shrink its pictures or split it into one file for each screen.');
      return;
    }
    setState({ kind: 'busy', file: file.name, stage: 'opening', done: 0 });
    try {
      const source = await file.text();
      const name = file.name.replace(/\.svg$/i, '');
      job.current = startReading(source, name, NO_DECISIONS, ({ stage, done }) => {
        setState({ kind: 'busy', file: file.name, stage, done });
      });
      const result = await job.current.result;
      if (!result.ok) {
        fail(result.reason);
        return;
      }
      const { drawing, structure } = result;
      setState({ kind: 'busy', file: file.name, stage: 'saving', done: 1 });
      const screen = await api.createScreen(projectId, {
        name,
        drawing: { name: file.name, width: drawing.width, height: drawing.height, source },
        structure,
      });
      setState({ kind: 'idle' });
      onDone(screen.id);
    } catch (error) {
      if (error instanceof Cancelled) setState({ kind: 'idle' });
      else fail(error instanceof Error ? error.message : 'The reading broke off: try again.');
    }
  };

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
        accept=".svg,image/svg+xml"
        aria-label="Choose an SVG drawing"
        onChange={(e) => {
          const [file] = e.currentTarget.files ?? [];
          e.currentTarget.value = '';
          if (file) void take(file);
        }}
      />
      {state.kind === 'busy' ? (
        <div className="drop-busy" role="status">
          <b>{state.file}</b>
          <progress value={state.done} max={1} aria-label="Reading" />
          <span>{STAGES[state.stage]} …</span>
          <Button size="small" onClick={() => job.current?.cancel()}>
            Stop
          </Button>
        </div>
      ) : (
        <>
          {state.kind === 'failed' && (
            <p className="refusal" role="alert">
              <b>{state.file}</b> {state.reason}
            </p>
          )}
          <p>
            Drop an SVG drawing of one screen here, or{' '}
            <Button type="primary" onClick={() => input.current?.click()}>
              Choose a file
            </Button>
          </p>
        </>
      )}
    </div>
  );
}
