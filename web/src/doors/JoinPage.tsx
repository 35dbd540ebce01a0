import { Button } from 'antd';
import { useMutation, useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { api, type Role } from '../api/client';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { NamePassword } from './NamePassword';

const MAY: Readonly<Record<Role, string>> = {
  viewer: 'look at it',
  editor: 'change what is in it',
  owner: 'do all in it, and invite others',
};

/** The page that an invitation opens. */
export function JoinPage() {
  const { token = '' } = useParams();
  const session = useQuery({ queryKey: ['session'], queryFn: api.session });
  const invitation = useQuery({ queryKey: ['invitation', token], queryFn: () => api.invitation(token) });
  const join = useMutation({
    mutationFn: (as: { name: string; password: string } | undefined) => api.join(token, as),
    onSuccess: ({ project }) => {
      window.location.assign(`/projects/${project}`);
    },
  });
  if (invitation.isPending || session.isPending) return <Waiting what="Looking at the invitation" />;
  if (invitation.isError) return <Trouble message={invitation.error.message} />;
  const { project, role } = invitation.data;
  const words = (
    <>
      <h1>{project}</h1>
      <p className="door-note">You are invited to this project, to {MAY[role]}.</p>
    </>
  );
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="door">
        {session.data?.kind === 'account' ? (
          <div className="door-card">
            {words}
            {join.error && (
              <p className="refusal" role="alert">
                {join.error.message}
              </p>
            )}
            <Button
              type="primary"
              loading={join.isPending}
              onClick={() => {
                join.mutate(undefined);
              }}
            >
              Join as {session.data.name}
            </Button>
          </div>
        ) : (
          <NamePassword
            does="Make an account and join"
            isNew
            isPending={join.isPending}
            error={join.error}
            onSubmit={(name, password) => {
              join.mutate({ name, password });
            }}
          >
            {words}
            <p className="door-note">
              You have an account? <Link to={`/sign-in?to=/invitations/${token}`}>Sign in first.</Link>
            </p>
          </NamePassword>
        )}
      </main>
    </div>
  );
}
