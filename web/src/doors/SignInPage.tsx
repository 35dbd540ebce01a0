import { useMutation } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { api } from '../api/client';
import { TopBar } from '../look/TopBar';
import { NamePassword } from './NamePassword';

/** Where one goes afterwards: a place of this application, and never another one's. */
const placeOf = (to: string | null): string => (to !== null && /^\/(?![/\\])/.test(to) ? to : '/');

/** The page to sign in on. */
export function SignInPage() {
  const [search] = useSearchParams();
  const signIn = useMutation({
    mutationFn: ({ name, password }: { name: string; password: string }) => api.signIn(name, password),
    onSuccess: () => {
      window.location.assign(placeOf(search.get('to')));
    },
  });
  return (
    <div className="page">
      <TopBar path={[]} signed={null} />
      <main className="door">
        <NamePassword
          does="Sign in"
          isNew={false}
          isPending={signIn.isPending}
          error={signIn.error}
          onSubmit={(name, password) => {
            signIn.mutate({ name, password });
          }}
        >
          <h1>Sign in</h1>
          <p className="door-note">
            Edits that were not sent yet are kept in this browser until you are back.
          </p>
        </NamePassword>
      </main>
    </div>
  );
}
