import { isRefusal, type Answer } from '@tinfold/core/edit';
import type { WorkbenchStore } from './store';

/** Takes what an operation answers: does it and says what else it did, or asks, or says why not. */
export function take(use: WorkbenchStore, answer: Answer): void {
  const { edit, select, ask, tell, refuse } = use.getState();
  if (isRefusal(answer)) {
    if (answer.instead.length > 0) ask(answer);
    else refuse(answer.reason);
    return;
  }
  const { label, step, moved, notes } = answer;
  if (!edit(label, step)) return;
  if (answer.select !== undefined) select(answer.select);
  tell({ label, moved, notes });
}
