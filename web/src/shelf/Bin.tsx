import { Button } from 'antd';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Shelved } from '../api/client';

interface Binned {
  readonly what: Shelved;
  readonly id: string;
  readonly name: string;
  readonly of?: string;
  readonly deletedAt: string;
}

/** What was taken off the shelf and can be put back; nothing while the bin is empty. */
export function BinOnShelf() {
  const client = useQueryClient();
  const bin = useQuery({ queryKey: ['bin'], queryFn: api.bin });
  const restore = useMutation({
    mutationFn: ({ what, id }: Binned) => api.restore(what, id),
    onSuccess: () => client.invalidateQueries(),
  });
  if (!bin.data) return null;
  const { days, projects, screens } = bin.data;
  const binned: Binned[] = [
    ...projects.map((p): Binned => ({ what: 'projects', ...p })),
    ...screens.map(({ project, ...s }): Binned => ({ what: 'screens', of: project, ...s })),
  ];
  if (binned.length === 0) return null;
  return (
    <section className="bin" aria-label="Bin">
      <h2>Bin</h2>
      <p>What is in here is kept for {days} days.</p>
      <ul>
        {binned.map((b) => (
          <li key={b.id}>
            <b>{b.name}</b>
            <span>
              {b.of === undefined ? 'project' : `screen of ${b.of}`}, since{' '}
              {new Date(b.deletedAt).toLocaleDateString('en-GB')}
            </span>
            <Button
              size="small"
              onClick={() => {
                restore.mutate(b);
              }}
            >
              Put back
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
