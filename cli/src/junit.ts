import { escapeHtml } from '@tinfold/core/handoff';
import { walk } from '@tinfold/core/model';
import {
  FAULT_KINDS,
  formatExpectation,
  KINDS,
  wholeSentenceOf,
  widthsOf,
  type Fault,
} from '@tinfold/core/proof';
import type { Proven } from '@tinfold/host/proving';

interface Outcome {
  readonly name: string;
  readonly failures: readonly string[];
}

const suite = (name: string, outcomes: readonly Outcome[]): string => {
  const failed = outcomes.filter((o) => o.failures.length > 0).length;
  const cases = outcomes.map(({ name: own, failures }) =>
    failures.length === 0
      ? `    <testcase classname="${name}" name="${escapeHtml(own)}"/>`
      : `    <testcase classname="${name}" name="${escapeHtml(own)}">\n${failures
          .map((f) => `      <failure message="${escapeHtml(f)}"/>`)
          .join('\n')}\n    </testcase>`,
  );
  return `  <testsuite name="${name}" tests="${outcomes.length}" failures="${failed}">\n${cases.join('\n')}\n  </testsuite>`;
};

/**
 * A proof as JUnit XML: a case for each kind of fault, which fails by the faults that `counts` lets count, and one for each
 * expectation.
 */
export function junit(
  { structure, faults, expectations }: Proven,
  counts: (fault: Fault) => boolean,
): string {
  const names = new Map([...walk(structure.root)].map((p) => [p.id, p.name]));
  const told = (f: Fault): string => {
    const trial = f.trial === null ? '' : ` (${f.trial})`;
    return `${wholeSentenceOf(f, (id) => names.get(id) ?? id)}, from ${f.from} to ${f.to}${trial}`;
  };
  const kinds = FAULT_KINDS.map((kind) => ({
    name: KINDS[kind].label,
    failures: faults.filter((f) => f.kind === kind && counts(f)).map(told),
  }));
  const held = expectations.map((h) => ({
    name: formatExpectation(h.expectation),
    failures: h.holds ? [] : [h.reason ?? `broken at ${h.broken.map(widthsOf).join(', ')}`],
  }));
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites>\n${suite('faults', kinds)}\n${suite('expectations', held)}\n</testsuites>\n`;
}
