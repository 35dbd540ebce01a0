import { Button } from 'antd';
import { TopBar } from './TopBar';

/** A page that waits for something. */
export function Waiting({ what }: { readonly what: string }) {
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="state" role="status">
        <div className="state-fold" aria-hidden="true" />
        <p>{what} …</p>
      </main>
    </div>
  );
}

/** A page that could not be shown, with the sentence that says why. */
export function Trouble({ message, retry }: { readonly message: string; readonly retry?: () => void }) {
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="state" role="alert">
        <p>{message}</p>
        {retry && <Button onClick={retry}>Try again</Button>}
      </main>
    </div>
  );
}
