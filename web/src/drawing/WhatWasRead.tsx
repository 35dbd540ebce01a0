import { factsOf, type Drawing } from '@tinfold/core/drawing';

/** What the drawing is made of, counted. */
export function WhatWasRead({ drawing }: { readonly drawing: Drawing }) {
  const f = factsOf(drawing);
  const { safeArea } = drawing;
  const rows: [number, string][] = [
    [
      f.texts,
      `${f.texts === 1 ? 'text' : 'texts'}, in ${f.typeStyles} type ${f.typeStyles === 1 ? 'style' : 'styles'}`,
    ],
    [f.boxes, `${f.boxes === 1 ? 'box' : 'boxes'}, of which ${f.holders} hold others`],
    [f.icons, f.icons === 1 ? 'icon or other vector art' : 'icons and other vector art'],
    [f.pictures, f.pictures === 1 ? 'picture' : 'pictures'],
  ];
  return (
    <>
      <header className="panel-head">
        <b>What was read</b>
        <span>{drawing.items.length} items</span>
      </header>
      <ul className="facts">
        {rows.map(([count, words]) => (
          <li key={words}>
            <b>{count}</b> {words}
          </li>
        ))}
        {safeArea && (
          <li>
            <b>{safeArea.top + safeArea.bottom}</b> px kept clear for the device: {safeArea.top} above,{' '}
            {safeArea.bottom} below
          </li>
        )}
      </ul>
    </>
  );
}
