import '@fontsource/barlow/latin-400.css';
import '@fontsource/barlow/latin-500.css';
import '@fontsource/barlow/latin-600.css';
import '@fontsource/barlow-semi-condensed/latin-500.css';
import '@fontsource/barlow-semi-condensed/latin-600.css';
import '@fontsource/spline-sans-mono/latin-400.css';
import '@fontsource/spline-sans-mono/latin-500.css';
import './look/look.css';
import './workbench/workbench.css';
import './drawing/drawing.css';
import './proof/proof.css';
import './handoff/handoff.css';
import './revisions/revisions.css';
import './doors/doors.css';
import { MutationCache, QueryCache, QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense, type ReactNode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { ApiError, isStranger } from './api/client';
import { JoinPage } from './doors/JoinPage';
import { SignInPage } from './doors/SignInPage';
import { Trouble } from './look/States';
import { Themed } from './look/Themed';
import { DrawingPage } from './drawing/DrawingPage';
import { ProjectPage } from './shelf/ProjectPage';
import { Shelf } from './shelf/Shelf';
import { RevisionsPage } from './revisions/RevisionsPage';
import { ScreenPage } from './screen/Screen';
import { Workbench } from './workbench/Workbench';

/** The stages of proof and of handoff bring charts and exporters along: each is loaded when it is opened. */
const ProofStage = lazy(async () => ({ default: (await import('./proof/ProofStage')).ProofStage }));
const SharedPage = lazy(async () => ({ default: (await import('./doors/SharedPage')).SharedPage }));
const HandoffStage = lazy(async () => ({ default: (await import('./handoff/HandoffStage')).HandoffStage }));

/** A stage that is loaded when it is opened. */
const later = (what: string, stage: ReactNode): ReactNode => (
  <Suspense
    fallback={
      <main className="state">
        <h1 className="state-words">
          <span role="status">Opening the {what} …</span>
        </h1>
      </main>
    }
  >
    {stage}
  </Suspense>
);

/** The page to sign in on, from which one comes back here. */
const toSignIn = (error: unknown): void => {
  const { pathname, search } = window.location;
  if (isStranger(error) && pathname !== '/sign-in')
    window.location.assign(`/sign-in?to=${encodeURIComponent(pathname + search)}`);
};

const client = new QueryClient({
  queryCache: new QueryCache({ onError: toSignIn }),
  mutationCache: new MutationCache({ onError: toSignIn }),
  defaultOptions: {
    queries: {
      // What the server has understood and refused will be refused again.
      retry: (count, error) =>
        count < 2 && !(error instanceof ApiError && error.status >= 400 && error.status < 500),
      refetchOnWindowFocus: false,
    },
  },
});

const root = document.getElementById('root');
if (!root) throw new Error('The page has no place for the application.');
createRoot(root).render(
  <StrictMode>
    <Themed>
      <QueryClientProvider client={client}>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<Shelf />} />
            <Route path="/projects/:projectId" element={<ProjectPage />} />
            <Route path="/screens/:screenId" element={<ScreenPage />}>
              <Route index element={<Workbench />} />
              <Route path="proof" element={later('proof', <ProofStage />)} />
              <Route path="handoff" element={later('handoff', <HandoffStage />)} />
            </Route>
            <Route path="/screens/:screenId/drawing" element={<DrawingPage />} />
            <Route path="/screens/:screenId/revisions" element={<RevisionsPage />} />
            <Route path="/sign-in" element={<SignInPage />} />
            <Route path="/invitations/:token" element={<JoinPage />} />
            <Route path="/shared/:token" element={later('screen', <SharedPage />)} />
            <Route
              path="*"
              element={<Trouble message="There is no page at this address: go back to the shelf." />}
            />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </Themed>
  </StrictMode>,
);
