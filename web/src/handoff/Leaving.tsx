import { Button, Checkbox } from 'antd';
import { useState } from 'react';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { FORMAT_NAMES, FORMATS, type Format } from '@tinfold/core/handoff';
import { sheetWidths } from '@tinfold/core/proof';
import { api, type Handoff } from '../api/client';
import { useScreen } from '../screen/Screen';
import { contactSheetPng } from './contactSheet';

/** What each format is called on the stage. */
const TITLES: Readonly<Record<Format, string>> = {
  html: 'HTML + CSS',
  react: 'React',
  elements: 'Custom elements',
  svg: 'SVG',
  tokens: 'Tokens',
  json: 'Structure',
  spec: 'Specification',
};

/** Lets the browser save something under a name. */
function save(href: string, name?: string): void {
  const link = document.createElement('a');
  link.href = href;
  link.download = name ?? '';
  link.click();
}

const date = new Intl.DateTimeFormat('en', { dateStyle: 'medium', timeStyle: 'short' });

/** What leaves: the formats, and the button that hands them over. */
export function Leaving({ handoffs }: { readonly handoffs: readonly Handoff[] }) {
  const { screen, use, proof, engine, measurer } = useScreen();
  const doc = use((s) => s.doc);
  const revision = use((s) => s.revision);
  const saving = use((s) => s.saving);
  const range = proof((s) => s.range);
  const [formats, setFormats] = useState<readonly Format[]>(['html', 'spec', 'tokens']);
  const client = useQueryClient();
  const widths = sheetWidths(
    screen.drawings.map((d) => Math.round(d.width)),
    [],
    range,
  );
  const { refuse } = use.getState();
  const failed = (error: unknown) => {
    refuse(error instanceof Error ? error.message : String(error));
  };
  const hand = useMutation({
    mutationFn: () => api.handOff(screen.id, { revision, formats, widths }),
    onSuccess: async ({ id }) => {
      save(`/api/handoffs/${id}/files.zip`);
      await client.invalidateQueries({ queryKey: ['handoffs', screen.id] });
    },
    onError: failed,
  });
  const sheet = useMutation({
    mutationFn: () => contactSheetPng(doc, widths, engine, measurer),
    onSuccess: (blob) => {
      const url = URL.createObjectURL(blob);
      save(url, `${screen.name}.png`);
      setTimeout(() => {
        URL.revokeObjectURL(url);
      }, 10_000);
    },
    onError: failed,
  });
  return (
    <section className="leaving" aria-label="What leaves">
      <h2>What leaves</h2>
      <ul className="leaving-formats">
        {FORMAT_NAMES.map((format) => (
          <li key={format}>
            <Checkbox
              checked={formats.includes(format)}
              onChange={(e) => {
                setFormats(
                  FORMAT_NAMES.filter((f) => (f === format ? e.target.checked : formats.includes(f))),
                );
              }}
            >
              <b>{TITLES[format]}</b> <span>{FORMATS[format]}</span>
            </Checkbox>
          </li>
        ))}
      </ul>
      <div className="leaving-buttons">
        <Button
          type="primary"
          disabled={formats.length === 0 || saving !== 'saved'}
          loading={hand.isPending}
          onClick={() => {
            hand.mutate();
          }}
        >
          Hand over rev {revision}
        </Button>
        <Button
          loading={sheet.isPending}
          onClick={() => {
            sheet.mutate();
          }}
        >
          Contact sheet
        </Button>
      </div>
      {handoffs.length > 0 && (
        <ol className="leaving-before" aria-label="Handed over before">
          {handoffs.slice(0, 5).map((h) => (
            <li key={h.id}>
              <a href={`/api/handoffs/${h.id}/files.zip`} download>
                rev {h.revision}
              </a>{' '}
              {date.format(new Date(h.createdAt))}, {h.formats.map((f) => TITLES[f]).join(', ')}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
}
