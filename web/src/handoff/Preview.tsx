import { useEffect, useMemo, useRef } from 'react';
import { fontFaceCss, fontFaces, previewPage } from '@tinfold/core/handoff';
import type { Structure } from '@tinfold/core/model';
import type { OwnFont, TextMeasurer } from '@tinfold/core/text';
import { faceAddress } from '../reading/fonts';
import { useRoom } from '../workbench/room';

interface PreviewProps {
  readonly doc: Structure;
  readonly fonts: readonly OwnFont[];
  readonly measurer: TextMeasurer;
  /** The frame, px. */
  readonly width: number;
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
}

/** How the part in hand is shown on the page that is looked at; nothing of it leaves. */
const IN_HAND = '[data-in-hand]{outline:2px solid #a54d24;outline-offset:1px}';

/**
 * The page as it leaves, in a frame of its own at the caliper's width: a real browser lays it out. Nothing in it runs, and what is
 * pointed at is taken in hand.
 */
export function Preview({ doc, fonts, measurer, width, selected, onSelect }: PreviewProps) {
  const frame = useRef<HTMLIFrameElement>(null);
  const [ref, room] = useRoom();
  const page = useMemo(() => {
    const css = fontFaceCss(fontFaces(doc, measurer), (face) => faceAddress(face, fonts));
    return previewPage(doc, css + IN_HAND, measurer);
  }, [doc, fonts, measurer]);
  const scale = Math.min(1, room.width / width);
  const mark = useRef<() => void>(undefined);
  useEffect(() => {
    mark.current = () => {
      const inside = frame.current?.contentDocument;
      if (!inside) return;
      for (const e of inside.querySelectorAll('[data-in-hand]')) e.removeAttribute('data-in-hand');
      if (selected !== undefined)
        inside.querySelector(`[data-part="${CSS.escape(selected)}"]`)?.setAttribute('data-in-hand', '');
    };
    mark.current();
  }, [selected, page]);
  return (
    <section className="preview" aria-label="The page as it leaves">
      <div className="preview-room" ref={ref}>
        <iframe
          ref={frame}
          className="preview-page"
          title={`${doc.name} at ${width}`}
          // No scripts, no forms, no way out; of this origin only so that its fonts load and it can be pointed at.
          sandbox="allow-same-origin"
          srcDoc={page}
          style={{ width, height: room.height / scale, transform: `scale(${scale})` }}
          onLoad={() => {
            const inside = frame.current?.contentDocument;
            inside?.addEventListener('click', (event) => {
              event.preventDefault();
              const part = (event.target as Element).closest('[data-part]')?.getAttribute('data-part');
              if (part) onSelect(part);
            });
            mark.current?.();
          }}
        />
      </div>
    </section>
  );
}
