import { Button } from 'antd';
import { useMemo } from 'react';
import { decisionsAt, placesOf } from '@tinfold/core/infer';
import type { Engine } from '@tinfold/core/layout';
import { findPart, type Structure } from '@tinfold/core/model';
import { useAfterPicture } from './afterPicture';
import { CELLS } from './cells';
import type { WorkbenchStore } from './store';

interface WhyProps {
  readonly use: WorkbenchStore;
  /** The structure as it was read, before any edit. */
  readonly asRead: Structure | null;
  readonly engine: Engine;
}

/** What speaks for the rule in hand: what was seen in the drawing, how sure that makes it, and what else was possible. */
export function Why({ use, asRead, engine }: WhyProps) {
  // All parts are laid out for it: the sheets answer an edit first.
  const doc = useAfterPicture(use((s) => s.doc));
  const selected = use((s) => s.selected);
  const column = use((s) => s.column);
  const { edit, setPreview } = use.getState();
  const places = useMemo(
    () => new Map(placesOf(doc, doc.drawn.width, engine).map((p) => [p.part.id, p])),
    [doc, engine],
  );
  const kind = CELLS[column];
  const place = selected === undefined ? undefined : places.get(selected);
  const rules = kind?.rules ?? (['flow', 'width'] as const);
  const decision = place && decisionsAt(place).find((d) => rules.includes(d.rule));
  if (!place || !decision)
    return (
      <p className="why">
        {place ? 'No rule here: what the others give holds.' : 'Point at a rule to see what speaks for it.'}
      </p>
    );
  const before = asRead && findPart(asRead.root, place.part.id)?.rules[decision.rule];
  const byHand =
    asRead !== null && JSON.stringify(before) !== JSON.stringify(place.part.rules[decision.rule]);
  const { runnerUp } = decision;
  return (
    <p className="why">
      {byHand ? (
        <span className="why-seen">Set by hand.</span>
      ) : (
        <>
          <span className="why-seen" title={decision.evidence}>
            {decision.evidence}
          </span>
          <span className="why-sure">{Math.round(decision.confidence * 100)} % sure</span>
        </>
      )}
      {runnerUp && !byHand && (
        <Button
          size="small"
          type="text"
          title={`Now it ${runnerUp.chosen}.`}
          onPointerEnter={() => {
            setPreview(runnerUp.step);
          }}
          onPointerLeave={() => {
            setPreview(undefined);
          }}
          onClick={() => {
            setPreview(undefined);
            edit(`${decision.rule} of ${place.part.name}`, runnerUp.step);
          }}
        >
          or {runnerUp.other}
        </Button>
      )}
    </p>
  );
}
