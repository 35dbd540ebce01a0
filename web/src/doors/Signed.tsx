import { Dropdown } from 'antd';
import { useMutation, useQuery } from '@tanstack/react-query';
import { api } from '../api/client';

/** Who is signed in, with the way out; nothing where nobody has to sign in. */
export function Signed() {
  const session = useQuery({ queryKey: ['session'], queryFn: api.session, staleTime: 60_000 });
  const leave = useMutation({
    mutationFn: (out: () => Promise<unknown>) => out(),
    // What was fetched for this account is not to be seen by the next.
    onSettled: () => {
      window.location.assign('/sign-in');
    },
  });
  if (session.data?.kind !== 'account') return null;
  return (
    <Dropdown
      trigger={['click']}
      placement="bottomRight"
      menu={{
        items: [
          { key: 'here', label: 'Sign out' },
          { key: 'everywhere', label: 'Sign out everywhere' },
        ],
        onClick: ({ key }) => {
          leave.mutate(key === 'here' ? api.signOut : api.signOutEverywhere);
        },
      }}
    >
      <button type="button" className="signed" aria-label={`Signed in as ${session.data.name ?? ''}`}>
        {session.data.name}
      </button>
    </Dropdown>
  );
}
