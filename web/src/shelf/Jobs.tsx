import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api, type ProjectJob } from '../api/client';
import { tallyOf } from '../proof/words';

/** How often it is asked how far work has come, ms. */
const ASK = 700;
/** After waiting so long it is said that no worker is there, ms. */
const LONELY = 8_000;

const isOpen = ({ state }: ProjectJob): boolean => state === 'waiting' || state === 'running';

/** What was read stands on the shelf: of readings only what is open or failed is listed. */
const isListed = (job: ProjectJob): boolean => job.kind === 'proof' || job.state !== 'done';

/** Long work of a project as worker processes do it: how far each has come, what failed and why. */
export function Jobs({ projectId }: { readonly projectId: string }) {
  const client = useQueryClient();
  const jobs = useQuery({
    queryKey: ['jobs', projectId],
    queryFn: () => api.jobs(projectId),
    refetchInterval: ({ state }) => (state.data?.some(isOpen) ? ASK : false),
  });
  const all = jobs.data ?? [];
  const read = all.filter((j) => j.kind === 'reading' && j.state === 'done').length;
  useEffect(() => {
    if (read > 0) void client.invalidateQueries({ queryKey: ['project', projectId] });
  }, [client, projectId, read]);
  const refresh = () => client.invalidateQueries({ queryKey: ['jobs', projectId] });
  const retry = useMutation({ mutationFn: api.retryJob, onSettled: refresh });
  const remove = useMutation({ mutationFn: api.removeJob, onSettled: refresh });
  const isLonely = useLonely(all.some(isOpen) && !all.some((j) => j.state === 'running'));
  const listed = all.filter(isListed);
  if (listed.length === 0) return null;
  const left = all.filter(isOpen).length;
  const trouble = retry.error ?? remove.error;
  return (
    <section className="jobs" aria-label="Work beside">
      <header>
        <h2>{left > 0 ? `${left} of ${all.length} still to do` : 'All done'}</h2>
        <span>
          {isLonely
            ? 'No worker takes it up: start one with “npm run worker”.'
            : left > 0
              ? 'It goes on when you leave this page.'
              : ''}
        </span>
        {left === 0 && listed.length > 1 && (
          <Button
            size="small"
            type="text"
            onClick={() => {
              for (const job of listed) remove.mutate(job.id);
            }}
          >
            Put all away
          </Button>
        )}
      </header>
      {trouble && (
        <p className="refusal" role="alert">
          {trouble.message}
        </p>
      )}
      <ul>
        {listed.map((job) => (
          <JobLine
            key={job.id}
            job={job}
            onRetry={() => {
              retry.mutate(job.id);
            }}
            onRemove={() => {
              remove.mutate(job.id);
            }}
          />
        ))}
      </ul>
    </section>
  );
}

/** Whether something has been so for long. */
function useLonely(isSo: boolean): boolean {
  const [long, setLong] = useState(false);
  useEffect(() => {
    if (!isSo) return;
    const timer = setTimeout(() => {
      setLong(true);
    }, LONELY);
    return () => {
      clearTimeout(timer);
      setLong(false);
    };
  }, [isSo]);
  return long;
}

interface JobLineProps {
  readonly job: ProjectJob;
  readonly onRetry: () => void;
  readonly onRemove: () => void;
}

function JobLine({ job, onRetry, onRemove }: JobLineProps) {
  return (
    <li data-state={job.state}>
      <span className="job-kind">{job.kind === 'reading' ? 'read' : 'prove'}</span>
      <b>
        {job.kind === 'proof' && job.screen !== null ? (
          <Link to={`/screens/${job.screen}/proof`}>{job.name}</Link>
        ) : (
          job.name
        )}
      </b>
      <span className="job-words">
        {job.state === 'running' ? (
          <progress value={job.progress} max={1} aria-label={`How far ${job.name} is`} />
        ) : (
          wordsOf(job)
        )}
      </span>
      {job.state === 'failed' && (
        <Button size="small" onClick={onRetry}>
          Try again
        </Button>
      )}
      <Button size="small" type="text" aria-label={`${endWord(job)}: ${job.name}`} onClick={onRemove}>
        {endWord(job)}
      </Button>
    </li>
  );
}

const endWord = (job: ProjectJob): string => (isOpen(job) ? 'Stop' : 'Put away');

function wordsOf({ state, said, proof }: ProjectJob): string {
  if (state === 'failed') return said ?? 'It failed.';
  if (state === 'waiting') return 'waits its turn';
  if (!proof) return '';
  const found = tallyOf(proof);
  return `revision ${proof.revision}, as it is and in ${proof.trials.length} trials: ${found === 'none' ? 'no faults' : found}`;
}
