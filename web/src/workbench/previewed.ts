import { applyStep, type Step, type Structure } from '@tinfold/core/model';

/** The document with a step that is only looked at; as it is where the step does not apply. */
export function previewed(doc: Structure, step: Step | undefined): Structure {
  const result = step && applyStep(doc, step);
  return result?.ok ? result.doc : doc;
}
