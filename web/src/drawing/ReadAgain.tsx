import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { DrawingDecisions } from '@tinfold/core/drawing';
import type { ScreenDetail } from '../api/client';
import { Cancelled } from '../reading/reader';
import { reread, type Rereading } from '../reading/reread';
import { STAGES } from '../reading/stages';

interface ReadAgainProps {
  readonly screen: ScreenDetail;
  readonly source: ScreenDetail['drawings'][number];
  readonly decisions: DrawingDecisions;
  readonly changed: boolean;
}

/** The button that reads the structure again, keeping what the designer has set, with its progress. */
export function ReadAgain({ screen, source, decisions, changed }: ReadAgainProps) {
  const [said, setSaid] = useState<string>();
  const [reason, setReason] = useState<string>();
  const [lost, setLost] = useState<readonly string[]>([]);
  const reading = useRef<Rereading>(undefined);
  const client = useQueryClient();
  const navigate = useNavigate();

  const read = async () => {
    setReason(undefined);
    try {
      const change = { kind: 'decisions', drawing: source.id, value: decisions } as const;
      reading.current = reread(screen, change, (stage) => {
        setSaid(STAGES[stage]);
      });
      const { lost: without } = await reading.current.result;
      await client.invalidateQueries();
      setLost(without);
      if (without.length === 0) await navigate(`/screens/${screen.id}`);
    } catch (error) {
      if (!(error instanceof Cancelled))
        setReason(error instanceof Error ? error.message : 'The reading broke off.');
    }
    setSaid(undefined);
  };
  return (
    <>
      {reason !== undefined && (
        <p className="refusal" role="alert">
          {reason}
        </p>
      )}
      <Lost sentences={lost} />
      <div className="read-again">
        <Button type="primary" disabled={said !== undefined} onClick={() => void read()}>
          Read the structure again
        </Button>
        {said === undefined ? (
          <span>
            {changed ? 'with what you changed here; rules you set stay' : 'rules that you set stay'}
          </span>
        ) : (
          <>
            <span role="status">{said} …</span>
            <Button size="small" onClick={() => reading.current?.cancel()}>
              Stop
            </Button>
          </>
        )}
      </div>
    </>
  );
}

/** What had been set and could not be kept when the drawings were read again. */
export function Lost({ sentences }: { readonly sentences: readonly string[] }) {
  if (sentences.length === 0) return null;
  return (
    <div className="refusal" role="alert">
      Read again. Not all that you had set could be kept:
      <ul>
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </div>
  );
}
