import { applySteps, type Step, type Structure } from '@tinfold/core/model';
import { api, ApiError, isRefusal, isStranger, type Conflict, type Write } from '../api/client';
import { afterPicture } from './afterPicture';
import type { WorkbenchStore } from './store';
import { forget, keep } from './unsent';

const RETRY_MS = 3000;

/**
 * Sends edits in order, one at a time, and keeps them in this browser until the server has them. What others did meanwhile is
 * taken over first and the own edits are put on top; an edit that no longer applies is told, none is lost in silence. While the
 * server is away edits wait.
 */
export class Saver {
  readonly #screenId: string;
  readonly #store: Pick<WorkbenchStore, 'getState' | 'setState'>;
  /** What the server has. */
  #base: Structure;
  #queue: Write[] = [];
  #busy = false;
  /** The newest revision that was heard of. */
  #heard = 0;

  constructor(screenId: string, base: Structure, store: Pick<WorkbenchStore, 'getState' | 'setState'>) {
    this.#screenId = screenId;
    this.#base = base;
    this.#store = store;
  }

  add(label: string, steps: readonly Step[]): void {
    const write = { write: crypto.randomUUID(), label, steps };
    this.#queue.push(write);
    void keep(this.#screenId, write);
    this.#store.setState({ saving: 'saving' });
    // The sheets answer first.
    afterPicture(() => {
      if (!this.#busy) void this.#send();
    });
  }

  /**
   * Hears of what other windows write, and takes it over; until the function is called that it gives. A window that is not seen
   * hears nothing: a browser keeps few connections to one server, and each stream is one. It is told all of it once it is seen again.
   */
  listen(): () => void {
    let stream: EventSource | undefined;
    const follow = () => {
      stream?.close();
      if (document.visibilityState === 'hidden') return;
      stream = new EventSource(`/api/screens/${this.#screenId}/changes`);
      stream.addEventListener('message', ({ data }: MessageEvent<string>) => {
        this.#heard = Math.max(this.#heard, (JSON.parse(data) as { revision: number }).revision);
        if (!this.#busy) void this.#send();
      });
    };
    follow();
    document.addEventListener('visibilitychange', follow);
    return () => {
      document.removeEventListener('visibilitychange', follow);
      stream?.close();
    };
  }

  /** Takes over what others wrote, where it was heard of. */
  async #takeOver(): Promise<void> {
    const { revision } = this.#store.getState();
    if (this.#heard <= revision) return;
    try {
      await this.#rebase(await api.stepsAfter(this.#screenId, revision));
    } catch {
      // The stream tells again once the server is back.
    }
  }

  async #send(): Promise<void> {
    this.#busy = true;
    for (let next = this.#queue[0]; next; next = this.#queue[0]) {
      try {
        const { revision } = await api.writeSteps(this.#screenId, this.#store.getState().revision, next);
        const result = applySteps(this.#base, next.steps);
        if (result.ok) this.#base = result.doc;
        this.#done(next);
        this.#store.setState({ revision, saving: this.#queue.length > 0 ? 'saving' : 'saved' });
      } catch (error) {
        if (error instanceof ApiError && error.status === 409) await this.#rebase(error.body as Conflict);
        else if (isRefusal(error)) this.#refused(next, error.message);
        else {
          this.#store.setState({ saving: isStranger(error) ? 'signed out' : 'waiting' });
          await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
        }
      }
    }
    await this.#takeOver();
    this.#busy = false;
    if (this.#queue.length > 0) void this.#send();
  }

  #done(write: Write): void {
    this.#queue = this.#queue.filter((w) => w !== write);
    void forget(write.write);
  }

  /** Takes over what the screen has become, and puts the own edits that wait on top of it. */
  async #rebase({ revision, steps, structure }: Conflict): Promise<void> {
    // What came back as done by its own id needs not be sent again.
    const known = new Set(steps.map((s) => s.write));
    for (const write of this.#queue) if (known.has(write.write)) this.#done(write);
    const joined = applySteps(
      this.#base,
      steps.flatMap((s) => s.steps),
    );
    if (!structure && joined.ok) {
      this.#base = joined.doc;
      this.#replay({ revision });
      return;
    }
    const now = structure ? { structure, revision } : await this.#opened();
    this.#base = now.structure ?? this.#base;
    this.#replay({ revision: now.revision });
    this.#store
      .getState()
      .refuse(
        'The screen was read again or put back in another window: your edits since are put on what it is now.',
      );
  }

  /** The screen as the server has it, asked for until it answers. */
  async #opened(): Promise<{ readonly structure: Structure | null; readonly revision: number }> {
    for (;;) {
      try {
        return await api.screen(this.#screenId);
      } catch {
        this.#store.setState({ saving: 'waiting' });
        await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
      }
    }
  }

  /** One edit that the server does not take goes; the others stay. */
  #refused(write: Write, reason: string): void {
    this.#done(write);
    this.#replay({});
    this.#store.getState().refuse(`“${write.label}” is not kept: ${reason}`);
  }

  /** The document of the server with the edits on top that wait; what no longer applies is told. */
  #replay(state: { readonly revision?: number }): void {
    let doc = this.#base;
    const lost: string[] = [];
    for (const write of this.#queue) {
      const result = applySteps(doc, write.steps);
      if (result.ok) doc = result.doc;
      else {
        lost.push(`“${write.label}” no longer fits: ${result.reason}`);
        this.#done(write);
      }
    }
    this.#store.setState({ doc, ...state, saving: this.#queue.length > 0 ? 'saving' : 'saved' });
    if (lost.length > 0) this.#store.getState().refuse(lost.join(' '));
  }
}
