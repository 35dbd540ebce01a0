import { Button } from 'antd';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api } from '../api/client';
import { Given } from './Given';

/** For how long a link may be made, days. */
const TERMS = [7, 30, 90, 365] as const;
const day = new Intl.DateTimeFormat('en', { dateStyle: 'medium' });

/** Links by which others look at the page, its specification and its proof, and change nothing. */
export function Links({ screenId }: { readonly screenId: string }) {
  const client = useQueryClient();
  const key = ['links', screenId];
  const links = useQuery({ queryKey: key, queryFn: () => api.links(screenId), retry: false });
  const [days, setDays] = useState<number>(30);
  const renew = () => client.invalidateQueries({ queryKey: key });
  const make = useMutation({ mutationFn: () => api.makeLink(screenId, days), onSuccess: renew });
  const takeBack = useMutation({ mutationFn: api.takeLinkBack, onSettled: renew });
  const failed = make.error ?? takeBack.error;
  // Who may only look at the project makes no links.
  if (links.isError) return null;
  return (
    <section className="links" aria-label="Links to look at">
      <h2>Links to look at</h2>
      {failed && (
        <p className="refusal" role="alert">
          {failed.message}
        </p>
      )}
      <div className="links-make">
        <Button
          loading={make.isPending}
          onClick={() => {
            make.mutate();
          }}
        >
          Make a link
        </Button>
        <label>
          for{' '}
          <select
            className="role"
            value={days}
            onChange={(e) => {
              setDays(Number(e.currentTarget.value));
            }}
          >
            {TERMS.map((n) => (
              <option key={n} value={n}>
                {n} days
              </option>
            ))}
          </select>
        </label>
      </div>
      {make.data && links.data?.some((l) => l.id === make.data.id) && (
        <Given
          path={`/shared/${make.data.token}`}
          says="Whoever has it sees this screen as it is, without signing in, and changes nothing. It is shown this once."
        />
      )}
      {(links.data ?? []).length > 0 && (
        <ul>
          {links.data?.map((l) => (
            <li key={l.id}>
              made {day.format(new Date(l.createdAt))}, ends {day.format(new Date(l.endsAt))}
              <Button
                size="small"
                type="text"
                aria-label={`Take back the link that ends ${day.format(new Date(l.endsAt))}`}
                onClick={() => {
                  takeBack.mutate(l.id);
                }}
              >
                Take back
              </Button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
