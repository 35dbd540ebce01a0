import { Button, Dropdown, Input } from 'antd';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Shelved } from '../api/client';

interface ShelvedNameProps {
  readonly what: Shelved;
  readonly id: string;
  readonly name: string;
  /** Moves it by places among its like; absent where they have no order, and per direction where there is none further. */
  readonly move?: { readonly earlier?: () => void; readonly later?: () => void };
}

/** The queries that show names of projects and screens. */
const SHOWN_BY: ReadonlySet<unknown> = new Set(['projects', 'project', 'bin']);

const ONE: Readonly<Record<Shelved, string>> = { projects: 'project', screens: 'screen' };

/** What can be done with a project on the shelf or a screen of one: named in place, copied, put into the bin. */
export function ShelvedName({ what, id, name, move }: ShelvedNameProps) {
  const client = useQueryClient();
  const [typed, setTyped] = useState<string>();
  const change = useMutation({
    mutationFn: (work: () => Promise<unknown>) => work(),
    onSuccess: () =>
      client.invalidateQueries({
        predicate: ({ queryKey }) => SHOWN_BY.has(queryKey[0]),
        // Lists that are not in sight too: they would ask for what is in the bin once they are.
        refetchType: 'all',
      }),
  });
  const rename = () => {
    const next = typed?.trim();
    if (next !== undefined && next !== '' && next !== name) change.mutate(() => api.rename(what, id, next));
    setTyped(undefined);
  };
  return (
    <div className="shelved-name">
      {typed !== undefined && (
        <Input
          autoFocus
          value={typed}
          maxLength={200}
          aria-label={`New name of ${name}`}
          onFocus={(e) => {
            e.currentTarget.select();
          }}
          onChange={(e) => {
            setTyped(e.target.value);
          }}
          onBlur={rename}
          onKeyDown={(e) => {
            if (e.key === 'Enter') rename();
            if (e.key === 'Escape') setTyped(undefined);
          }}
        />
      )}
      {change.isError && (
        <p className="refusal" role="alert">
          {change.error.message}
        </p>
      )}
      <Dropdown
        destroyOnHidden
        trigger={['click']}
        placement="bottomRight"
        menu={{
          items: [
            { key: 'rename', label: 'Name it anew' },
            { key: 'copy', label: 'Copy' },
            ...(move
              ? [
                  { key: 'earlier', label: 'One place forward', disabled: !move.earlier },
                  { key: 'later', label: 'One place back', disabled: !move.later },
                ]
              : []),
            ...(what === 'projects'
              ? [
                  {
                    key: 'file',
                    label: (
                      <a href={`/api/projects/${id}/file`} download>
                        Save as a file
                      </a>
                    ),
                  },
                ]
              : []),
            { key: 'bin', label: 'Put into the bin' },
          ],
          onClick: ({ key }) => {
            if (key === 'rename') setTyped(name);
            if (key === 'copy') change.mutate(() => api.copy(what, id));
            if (key === 'earlier') move?.earlier?.();
            if (key === 'later') move?.later?.();
            if (key === 'bin')
              change.mutate(async () => {
                await api.toBin(what, id);
                client.removeQueries({ queryKey: ['project', id] });
              });
          },
        }}
      >
        <Button
          size="small"
          className="shelved-more"
          aria-label={`What can be done with the ${ONE[what]} ${name}`}
        >
          ···
        </Button>
      </Dropdown>
    </div>
  );
}
