import { useQueryClient } from '@tanstack/react-query';
import { Button, Popconfirm, Segmented } from 'antd';
import { useRef, useState } from 'react';
import { MAX_BYTES } from '@tinfold/core/drawing';
import type { ScreenDetail } from '../api/client';
import { Cancelled, findFrames, sourceTextOf } from '../reading/reader';
import { reread, type Change, type Rereading } from '../reading/reread';
import { STAGES } from '../reading/stages';
import { KINDS } from '../shelf/ImportDrop';
import { Lost } from './ReadAgain';

interface DrawnWidthsProps {
  readonly screen: ScreenDetail;
  /** The drawing that is shown. */
  readonly source: ScreenDetail['drawings'][number];
  /** Whether something was changed here that is not read yet. */
  readonly changed: boolean;
  readonly onTurn: (width: number) => void;
}

/** The widths at which the screen is drawn: which one is shown, adding one and taking one away. */
export function DrawnWidths({ screen, source, changed, onTurn }: DrawnWidthsProps) {
  const [said, setSaid] = useState<string>();
  const [reason, setReason] = useState<string>();
  const [lost, setLost] = useState<readonly string[]>([]);
  const input = useRef<HTMLInputElement>(null);
  const reading = useRef<Rereading>(undefined);
  const client = useQueryClient();

  const apply = async (change: () => Promise<Change>) => {
    setReason(undefined);
    setSaid(STAGES.opening);
    try {
      reading.current = reread(screen, await change(), (stage) => {
        setSaid(STAGES[stage]);
      });
      const { lost: without, width } = await reading.current.result;
      setLost(without);
      await client.invalidateQueries();
      if (width !== undefined) onTurn(width);
    } catch (error) {
      if (!(error instanceof Cancelled))
        setReason(error instanceof Error ? error.message : 'The reading broke off: try again.');
    }
    setSaid(undefined);
  };
  const added = (file: File) => async (): Promise<Change> => {
    if (file.size > MAX_BYTES)
      throw new Error(
        'The file is over 20 MB: shrink its pictures or split it into one file for each screen.',
      );
    const text = await sourceTextOf(file, screen.fonts).result;
    const frames = await findFrames({ text, name: file.name, fonts: [] }).result;
    if (frames.length > 1)
      throw new Error(`${file.name} holds ${frames.length} screens side by side: add a file of one screen.`);
    return { kind: 'added', file: file.name, text };
  };
  return (
    <div className="drawn-widths">
      <Segmented
        size="small"
        aria-label="Which drawing is shown"
        value={source.width}
        options={screen.drawings.map((d) => ({ value: d.width, label: `drawn at ${Math.round(d.width)}` }))}
        onChange={onTurn}
        disabled={said !== undefined}
      />
      <input
        ref={input}
        type="file"
        accept={KINDS}
        aria-label="Choose a drawing of another width"
        onChange={(e) => {
          const [file] = e.currentTarget.files ?? [];
          e.currentTarget.value = '';
          if (file) void apply(added(file));
        }}
      />
      {said === undefined ? (
        <>
          <Button size="small" disabled={changed} onClick={() => input.current?.click()}>
            Add this screen at another width
          </Button>
          {screen.drawings.length > 1 && (
            <Popconfirm
              title={`Take the drawing at ${Math.round(source.width)} away? The structure is read without it.`}
              okText="Take it away"
              cancelText="Keep it"
              onConfirm={() => void apply(() => Promise.resolve({ kind: 'removed', drawing: source.id }))}
            >
              <Button size="small" type="text" disabled={changed}>
                Take this one away
              </Button>
            </Popconfirm>
          )}
        </>
      ) : (
        <>
          <span role="status">{said} …</span>
          <Button size="small" onClick={() => reading.current?.cancel()}>
            Stop
          </Button>
        </>
      )}
      {reason !== undefined && (
        <p className="refusal" role="alert">
          {reason}
        </p>
      )}
      <Lost sentences={lost} />
    </div>
  );
}
