import { useEffect, useMemo, useState } from 'react';
import type { Question } from '@tinfold/core/infer';
import { partsById, type Structure } from '@tinfold/core/model';
import type { ScreenDetail } from '../api/client';
import { Cancelled, findQuestions } from '../reading/reader';

/** After an edit the questions are looked for again once nothing has changed for so long, ms. */
const QUIET_MS = 400;

/** The open questions about a structure; undefined until they are known. */
export function useQuestions(screen: ScreenDetail, doc: Structure): readonly Question[] | undefined {
  const [found, setFound] = useState<readonly Question[]>();
  useEffect(() => {
    let job: ReturnType<typeof findQuestions> | undefined;
    const timer = setTimeout(() => {
      job = findQuestions(
        doc,
        screen.drawings.map((d) => d.width),
        screen.fonts,
      );
      job.result.then(setFound, (error: unknown) => {
        // Without questions the workbench is whole; a reading that was overtaken says nothing.
        if (!(error instanceof Cancelled)) setFound([]);
      });
    }, QUIET_MS);
    return () => {
      clearTimeout(timer);
      job?.cancel();
    };
  }, [doc, screen]);
  // What was answered a moment ago is not asked again while the next ones are looked for.
  return useMemo(() => {
    const parts = partsById(doc.root);
    return found?.filter((q) => {
      const part = parts.get(q.part);
      return part && !part.answered?.includes(q.topic);
    });
  }, [found, doc]);
}
