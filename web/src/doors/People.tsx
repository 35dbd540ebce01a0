import { Button } from 'antd';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ROLES, type Role } from '../api/client';
import { Given } from './Given';

const asRole = (value: string): Role => ROLES.find((r) => r === value) ?? 'viewer';

function RoleChoice({
  value,
  label,
  disabled,
  onChange,
}: {
  readonly value: Role;
  readonly label: string;
  readonly disabled: boolean;
  readonly onChange: (role: Role) => void;
}) {
  return (
    <select
      className="role"
      value={value}
      aria-label={label}
      disabled={disabled}
      onChange={(e) => {
        onChange(asRole(e.currentTarget.value));
      }}
    >
      {ROLES.map((r) => (
        <option key={r} value={r}>
          {r}
        </option>
      ))}
    </select>
  );
}

/** Who works on a project, and the way to invite others; nothing where nobody has to sign in. */
export function People({ projectId }: { readonly projectId: string }) {
  const client = useQueryClient();
  const known = useQuery({ queryKey: ['people', projectId], queryFn: () => api.people(projectId) });
  const session = useQuery({ queryKey: ['session'], queryFn: api.session, staleTime: 60_000 });
  const [role, setRole] = useState<Role>('editor');
  const change = useMutation({
    mutationFn: (what: () => Promise<unknown>) => what(),
    onSettled: () => client.invalidateQueries({ queryKey: ['people', projectId] }),
  });
  const invite = useMutation({ mutationFn: () => api.invite(projectId, role) });
  if (!known.data?.isSignInOn) return null;
  const { people } = known.data;
  const isOwner = people.some((p) => p.name === session.data?.name && p.role === 'owner');
  const failed = change.error ?? invite.error;
  return (
    <section className="people" aria-label="People">
      <h2>People</h2>
      {failed && (
        <p className="refusal" role="alert">
          {failed.message}
        </p>
      )}
      <ul>
        {people.map((person) => (
          <li key={person.id}>
            <span className="people-name">{person.name}</span>
            <RoleChoice
              value={person.role}
              label={`Role of ${person.name}`}
              disabled={!isOwner}
              onChange={(to) => {
                change.mutate(() => api.setRole(projectId, person.id, to));
              }}
            />
            {isOwner && (
              <Button
                size="small"
                type="text"
                aria-label={`Take ${person.name} out of the project`}
                onClick={() => {
                  change.mutate(() => api.removePerson(projectId, person.id));
                }}
              >
                Take out
              </Button>
            )}
          </li>
        ))}
      </ul>
      {isOwner && (
        <div className="people-invite">
          <RoleChoice value={role} label="Role of who is invited" disabled={false} onChange={setRole} />
          <Button
            loading={invite.isPending}
            onClick={() => {
              invite.mutate();
            }}
          >
            Make an invitation
          </Button>
        </div>
      )}
      {invite.data && (
        <Given
          path={`/invitations/${invite.data.token}`}
          says="Whoever opens it first joins. It ends in fourteen days, and is shown this once."
        />
      )}
    </section>
  );
}
