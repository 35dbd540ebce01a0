import { Button } from 'antd';
import { TopBar } from './TopBar';

/** A page that waits for something. */
export function Waiting({ what }: { readonly what: string }) {
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="state">
        <div className="state-fold" aria-hidden="true" />
        <h1 className="state-words">
          <span role="status">{what} …</span>
        </h1>
      </main>
    </div>
  );
}

/** A page that could not be shown, with the sentence that says why. */
export function Trouble({ message, retry }: { readonly message: string; readonly retry?: () => void }) {
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="state">
        <h1 className="state-words">
          <span role="alert">{message}</span>
        </h1>
        {retry && <Button onClick={retry}>Try again</Button>}
      </main>
    </div>
  );
}
