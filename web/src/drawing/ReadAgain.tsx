import { useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { NO_DECISIONS, type Drawing, type DrawingDecisions } from '@tinfold/core/drawing';
import { carryOver, type Carried } from '@tinfold/core/infer';
import type { Structure } from '@tinfold/core/model';
import { api, type ScreenDetail } from '../api/client';
import { Cancelled, startReading, type Job } from '../reading/reader';
import { STAGES } from '../reading/stages';

interface ReadAgainProps {
  readonly screen: ScreenDetail;
  readonly source: ScreenDetail['drawings'][number];
  readonly decisions: DrawingDecisions;
  readonly changed: boolean;
}

type Reading = { readonly drawing: Drawing; readonly structure: Structure };

/** The button that reads the structure again, keeping what the designer has set, with its progress. */
export function ReadAgain({ screen, source, decisions, changed }: ReadAgainProps) {
  const [said, setSaid] = useState<string>();
  const [reason, setReason] = useState<string>();
  const [lost, setLost] = useState<readonly string[]>([]);
  const job = useRef<Job<Reading>>(undefined);
  const client = useQueryClient();
  const navigate = useNavigate();

  const readBy = async (by: DrawingDecisions): Promise<Structure> => {
    const file = { text: source.source, name: source.name, fonts: screen.fonts };
    job.current = startReading(file, by, ({ stage }) => {
      setSaid(STAGES[stage]);
    });
    const { structure } = await job.current.result;
    return { ...structure, name: screen.name };
  };

  const keepDecisions = async (fresh: Structure): Promise<Carried> => {
    if (!screen.structure) return { structure: fresh, kept: 0, lost: [] };
    const asRead = screen.asRead ?? (await readBy({ ...NO_DECISIONS, ...source.decisions }));
    return carryOver(asRead, screen.structure, fresh);
  };

  const read = async () => {
    setReason(undefined);
    setSaid(STAGES.opening);
    try {
      const asRead = await readBy(decisions);
      const carried = await keepDecisions(asRead);
      setSaid(STAGES.saving);
      const reading = { structure: carried.structure, asRead };
      await api.writeStructure(screen.id, screen.revision, reading, { drawing: source.id, value: decisions });
      await client.invalidateQueries();
      setSaid(undefined);
      setLost(carried.lost);
      if (carried.lost.length === 0) await navigate(`/screens/${screen.id}`);
    } catch (error) {
      if (!(error instanceof Cancelled))
        setReason(error instanceof Error ? error.message : 'The reading broke off.');
      setSaid(undefined);
    }
  };
  return (
    <>
      {reason !== undefined && (
        <p className="refusal" role="alert">
          {reason}
        </p>
      )}
      {lost.length > 0 && (
        <div className="refusal" role="alert">
          Read again. Not all that you had set could be kept:
          <ul>
            {lost.map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
      )}
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
            <Button size="small" onClick={() => job.current?.cancel()}>
              Stop
            </Button>
          </>
        )}
      </div>
    </>
  );
}
