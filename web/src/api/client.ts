import type { DrawingDecisions } from '@tinfold/core/drawing';
import type { Format } from '@tinfold/core/handoff';
import type { Step, Structure } from '@tinfold/core/model';
import type { Left } from '@tinfold/core/proof';
import type { OwnFont } from '@tinfold/core/text';

/** An answer of the server that is an error; `message` is a sentence for the user. */
export class ApiError extends Error {
  readonly status: number;
  readonly body: unknown;

  constructor(status: number, message: string, body: unknown) {
    super(message);
    this.status = status;
    this.body = body;
  }
}

/** Whether an edit itself was refused: not that somebody has to sign in first, or was too slow or too quick. */
export const isRefusal = (error: unknown): error is ApiError =>
  error instanceof ApiError &&
  error.status >= 400 &&
  error.status < 500 &&
  ![401, 408, 429].includes(error.status);

/** Whether one has to sign in first. */
export const isStranger = (error: unknown): boolean => error instanceof ApiError && error.status === 401;

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      ...(body instanceof ArrayBuffer
        ? { body, headers: { 'content-type': 'application/octet-stream' } }
        : body !== undefined && {
            body: JSON.stringify(body),
            headers: { 'content-type': 'application/json' },
          }),
    });
  } catch {
    throw new ApiError(0, 'The server does not answer: check that it runs, then try again.', undefined);
  }
  if (response.status === 204) return undefined as T;
  const answer: unknown = await response.json().catch(() => undefined);
  if (!response.ok) {
    const detail = (answer as { detail?: string } | undefined)?.detail;
    throw new ApiError(
      response.status,
      detail ?? `The server answered ${response.status}: try again.`,
      answer,
    );
  }
  return answer as T;
}

export interface ProjectSummary {
  readonly id: string;
  readonly name: string;
  readonly createdAt: string;
  readonly screens: number;
  /** The first screens, for a small picture each. */
  readonly preview: readonly string[];
}

export interface ScreenSummary {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly drawings: readonly {
    readonly id: string;
    readonly name: string;
    readonly width: number;
    readonly height: number;
  }[];
}

export interface ProjectDetail extends Omit<ProjectSummary, 'screens' | 'preview'> {
  readonly screens: readonly ScreenSummary[];
}

export interface ScreenDetail {
  readonly id: string;
  readonly name: string;
  readonly project: { readonly id: string; readonly name: string };
  readonly revision: number;
  readonly structure: Structure | null;
  /** The structure as it was last read, before any edit. */
  readonly asRead: Structure | null;
  /** What it is held to, a sentence each. */
  readonly expectations: readonly string[];
  /** The faults that are left as they are. */
  readonly left: readonly Left[];
  /** The fonts that were added to the project. */
  readonly fonts: readonly OwnFont[];
  readonly drawings: readonly (ScreenSummary['drawings'][number] & {
    readonly source: string;
    readonly decisions: DrawingDecisions | null;
  })[];
}

export interface NewDrawing {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly source: string;
  readonly decisions?: DrawingDecisions;
}

export interface NewScreen {
  readonly name: string;
  readonly drawing: NewDrawing;
  readonly structure: Structure;
}

/** A new reading; `asRead` is it before the designer's decisions were put on it again. */
export interface NewReading {
  readonly structure: Structure;
  readonly asRead: Structure;
  /** What was decided about one of the drawings. */
  readonly decisions?: { readonly drawing: string; readonly value: DrawingDecisions };
  /** A drawing that comes to the screen with it, or the id of one that goes. */
  readonly added?: NewDrawing;
  readonly removed?: string;
}

/** How many faults a run of the proof has found, on which revision. */
export interface NewProofRun {
  readonly revision: number;
  readonly from: number;
  readonly to: number;
  readonly trials: readonly string[];
  readonly errors: number;
  readonly warnings: number;
  readonly notes: number;
}

export interface ProofRun extends NewProofRun {
  readonly id: string;
  readonly createdAt: string;
}

/** Long work that worker processes do for a project. */
export interface ProjectJob {
  readonly id: string;
  readonly kind: 'reading' | 'proof';
  /** The name of the file that is read, or of the screen that is proved. */
  readonly name: string;
  /** The screen that is proved. */
  readonly screen: string | null;
  readonly state: 'waiting' | 'running' | 'done' | 'failed';
  /** From 0 to 1. */
  readonly progress: number;
  /** Why it failed, as a sentence. */
  readonly said: string | null;
  /** The screens that were made of the file. */
  readonly screens: readonly string[];
  readonly proof: ProofRun | null;
}

/** A revision of a screen, and what was done with it. */
export interface Revision {
  readonly revision: number;
  readonly label: string;
  readonly createdAt: string;
  readonly name: string | null;
  readonly proved: boolean;
  readonly handedOver: boolean;
}

/** What was handed over, without its files. */
export interface Handoff {
  readonly id: string;
  readonly revision: number;
  readonly formats: readonly Format[];
  readonly widths: readonly number[];
  readonly createdAt: string;
}

/** What became of a screen meanwhile, as a 409 carries it: the steps that others made. */
export interface Conflict {
  readonly revision: number;
  readonly steps: readonly {
    readonly revision: number;
    readonly label: string;
    readonly steps: readonly Step[];
    /** The id of the write that it came with. */
    readonly write?: string | null;
  }[];
  /** How the screen stands now, where something else than steps lies between. */
  readonly structure?: Structure | null;
}

/** An edit on its way to the server. */
export interface Write {
  /** An id of its own, so that an edit whose answer was lost is not done twice. */
  readonly write: string;
  readonly label: string;
  readonly steps: readonly Step[];
}

/** What can be renamed, copied and put into the bin. */
export type Shelved = 'projects' | 'screens';

export interface Bin {
  /** For so many days what is in it is kept. */
  readonly days: number;
  readonly projects: readonly { readonly id: string; readonly name: string; readonly deletedAt: string }[];
  readonly screens: readonly {
    readonly id: string;
    readonly name: string;
    readonly project: string;
    readonly deletedAt: string;
  }[];
}

/** What somebody may do in a project, and each what those before may. */
export const ROLES = ['viewer', 'editor', 'owner'] as const;
export type Role = (typeof ROLES)[number];

/** Who uses the pages: the machine's own user where nobody has to sign in. */
export interface Session {
  readonly kind: 'machine' | 'account' | 'stranger';
  readonly name?: string;
}

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
}

/** A link by which a screen is looked at. */
export interface SharedLink {
  readonly id: string;
  readonly endsAt: string;
  readonly createdAt: string;
}

/** A screen as a link shows it. */
export interface SharedScreen extends Pick<
  ScreenDetail,
  'name' | 'revision' | 'expectations' | 'left' | 'fonts' | 'drawings'
> {
  readonly structure: Structure;
}

export const api = {
  session: () => call<Session>('GET', '/session'),
  signIn: (name: string, password: string) => call<Session>('POST', '/session', { name, password }),
  signOut: () => call<undefined>('DELETE', '/session'),
  signOutEverywhere: () => call<undefined>('DELETE', '/sessions'),
  people: (projectId: string) =>
    call<{ isSignInOn: boolean; people: Person[] }>('GET', `/projects/${projectId}/people`),
  invite: (projectId: string, role: Role) =>
    call<{ token: string }>('POST', `/projects/${projectId}/invitations`, { role }),
  setRole: (projectId: string, account: string, role: Role) =>
    call<undefined>('PUT', `/projects/${projectId}/people/${account}`, { role }),
  removePerson: (projectId: string, account: string) =>
    call<undefined>('DELETE', `/projects/${projectId}/people/${account}`),
  invitation: (token: string) => call<{ project: string; role: Role }>('GET', `/invitations/${token}`),
  join: (token: string, as?: { readonly name: string; readonly password: string }) =>
    call<{ project: string }>('POST', `/invitations/${token}`, as ?? {}),
  links: (screenId: string) => call<SharedLink[]>('GET', `/screens/${screenId}/links`),
  /** The token is told this once. */
  makeLink: (screenId: string, days: number) =>
    call<SharedLink & { token: string }>('POST', `/screens/${screenId}/links`, { days }),
  takeLinkBack: (id: string) => call<undefined>('DELETE', `/links/${id}`),
  shared: (token: string) => call<SharedScreen>('GET', `/shared/${token}`),
  rename: (what: Shelved, id: string, name: string) => call<undefined>('PATCH', `/${what}/${id}`, { name }),
  copy: (what: Shelved, id: string) => call<{ id: string }>('POST', `/${what}/${id}/copy`),
  toBin: (what: Shelved, id: string) => call<undefined>('DELETE', `/${what}/${id}`),
  restore: (what: Shelved, id: string) => call<undefined>('POST', `/${what}/${id}/restore`),
  bin: () => call<Bin>('GET', '/bin'),
  projects: () => call<ProjectSummary[]>('GET', '/projects'),
  openProject: (file: ArrayBuffer) =>
    call<{ id: string; name: string; screens: number }>('POST', '/projects/file', file),
  createProject: (name: string) => call<ProjectSummary>('POST', '/projects', { name }),
  project: (id: string) => call<ProjectDetail>('GET', `/projects/${id}`),
  order: (projectId: string, screens: readonly string[]) =>
    call<undefined>('PUT', `/projects/${projectId}/order`, { screens }),
  createScreen: (projectId: string, screen: NewScreen) =>
    call<{ id: string }>('POST', `/projects/${projectId}/screens`, screen),
  jobs: (projectId: string) => call<ProjectJob[]>('GET', `/projects/${projectId}/jobs`),
  /** Puts a file in line to be read, and all screens of a project to be proved. */
  readFile: (projectId: string, name: string, source: string) =>
    call<{ id: string }>('POST', `/projects/${projectId}/readings`, { name, source }),
  proveAll: (projectId: string) => call<unknown>('POST', `/projects/${projectId}/proofs`),
  retryJob: (id: string) => call<unknown>('POST', `/jobs/${id}/retry`),
  removeJob: (id: string) => call<undefined>('DELETE', `/jobs/${id}`),
  screen: (id: string) => call<ScreenDetail>('GET', `/screens/${id}`),
  /** Puts a new reading in place. */
  writeStructure: (id: string, revision: number, reading: NewReading) =>
    call<{ revision: number }>('PUT', `/screens/${id}/structure`, { revision, ...reading }),
  fonts: (projectId: string) => call<OwnFont[]>('GET', `/projects/${projectId}/fonts`),
  addFont: (projectId: string, file: ArrayBuffer) =>
    call<OwnFont>('POST', `/projects/${projectId}/fonts`, file),
  removeFont: (id: string) => call<undefined>('DELETE', `/fonts/${id}`),
  writeExpectations: (id: string, expectations: readonly string[]) =>
    call<unknown>('PUT', `/screens/${id}/expectations`, { expectations }),
  writeLeft: (id: string, left: readonly Left[]) => call<unknown>('PUT', `/screens/${id}/left`, { left }),
  proofs: (id: string) => call<ProofRun[]>('GET', `/screens/${id}/proofs`),
  writeProof: (id: string, run: NewProofRun) => call<ProofRun>('POST', `/screens/${id}/proofs`, run),
  /** The revisions of a screen before one, the newest first. */
  revisions: (id: string, before?: number) =>
    call<{ revisions: Revision[]; more: boolean }>(
      'GET',
      `/screens/${id}/revisions${before === undefined ? '' : `?before=${before}`}`,
    ),
  revision: (id: string, revision: number) =>
    call<{ structure: Structure }>('GET', `/screens/${id}/revisions/${revision}`),
  nameRevision: (id: string, revision: number, name: string) =>
    call<undefined>('PUT', `/screens/${id}/revisions/${revision}/name`, { name }),
  /** Puts a revision in place again, on top of the current one. */
  restoreRevision: (id: string, revision: number, current: number) =>
    call<{ revision: number }>('POST', `/screens/${id}/revisions/${revision}/restore`, { revision: current }),
  /** What was handed over before, the last first, and the structure as it left last. */
  handoffs: (id: string) =>
    call<{ handoffs: Handoff[]; last: Structure | null }>('GET', `/screens/${id}/handoffs`),
  handOff: (id: string, what: Pick<Handoff, 'revision' | 'formats' | 'widths'>) =>
    call<Handoff>('POST', `/screens/${id}/handoffs`, what),
  /** What became of a screen after a revision. */
  stepsAfter: (id: string, revision: number) =>
    call<Conflict>('GET', `/screens/${id}/steps?after=${revision}`),
  writeSteps: (id: string, revision: number, { write, label, steps }: Write) =>
    call<{ revision: number }>('POST', `/screens/${id}/steps`, { revision, write, label, steps }),
};
