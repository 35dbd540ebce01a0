import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { useRef } from 'react';
import type { OwnFont } from '@tinfold/core/text';
import { api } from '../api/client';

interface ProjectFontsProps {
  readonly projectId: string;
  readonly screenId: string;
  readonly fonts: readonly OwnFont[];
}

/** The fonts that were added to the project, and the way to add another. */
export function ProjectFonts({ projectId, screenId, fonts }: ProjectFontsProps) {
  const input = useRef<HTMLInputElement>(null);
  const client = useQueryClient();
  const again = () => client.invalidateQueries({ queryKey: ['screen-detail', screenId] });
  const add = useMutation({
    mutationFn: async (files: readonly File[]) => {
      for (const file of files) await api.addFont(projectId, await file.arrayBuffer());
    },
    onSettled: again,
  });
  const remove = useMutation({ mutationFn: api.removeFont, onSettled: again });
  const error = add.error ?? remove.error;
  return (
    <>
      <header className="panel-head">
        <b>Fonts of the project</b>
        <span>{fonts.length === 0 ? 'none added' : fonts.length}</span>
      </header>
      <ul className="facts">
        {fonts.map(({ id, family, weight, italic }) => (
          <li key={id}>
            <b>{weight}</b>
            <span className="facts-words">
              {family}
              {italic ? ', italic' : ''}
            </span>
            <button
              type="button"
              className="link-button"
              onClick={() => {
                remove.mutate(id);
              }}
            >
              take away
            </button>
          </li>
        ))}
        <li className="facts-add">
          <input
            ref={input}
            type="file"
            accept=".woff2,.woff,.ttf,.otf"
            multiple
            hidden
            aria-label="Choose font files"
            onChange={(e) => {
              const files = [...(e.currentTarget.files ?? [])];
              e.currentTarget.value = '';
              if (files.length > 0) add.mutate(files);
            }}
          />
          <span className="facts-words">A font that is missing can be added: woff2, woff, ttf or otf.</span>
          <Button size="small" loading={add.isPending} onClick={() => input.current?.click()}>
            Add a font
          </Button>
        </li>
        {error && (
          <li>
            <p className="refusal" role="alert">
              {error.message}
            </p>
          </li>
        )}
      </ul>
    </>
  );
}
