import { useQuery } from '@tanstack/react-query';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing, walk, type Part } from '@tinfold/core/model';
import { api } from '../api/client';
import { facesOfStructure, loadMeasurer } from '../reading/fonts';

interface SilhouetteProps {
  readonly screenId: string;
  /** The px that the picture may take on the page. */
  readonly width: number;
  readonly height: number;
}

async function load(screenId: string) {
  const { structure, fonts } = await api.screen(screenId);
  if (!structure) return undefined;
  const engine = new Engine(await loadMeasurer(facesOfStructure(structure, fonts), fonts));
  const { width } = structure.drawn;
  return { structure, reflow: reflow(standing(structure, { width }), width, engine) };
}

const fillOf = (part: Part): string => {
  if (part.kind === 'text') return 'var(--ink)';
  if (part.kind === 'picture') return 'var(--sea-light)';
  const fill = part.paint?.fill;
  return fill?.kind === 'solid' ? fill.colour : 'none';
};

/** A small line picture of a screen: its boxes, its pictures, its words as bars. */
export function Silhouette({ screenId, width, height }: SilhouetteProps) {
  const data = useQuery({ queryKey: ['silhouette', screenId], queryFn: () => load(screenId) });
  if (!data.data) return <svg width={width} height={height} className="silhouette" aria-hidden="true" />;
  const { structure, reflow: result } = data.data;
  const { root, drawn } = structure;
  const scale = Math.min(width / drawn.width, height / drawn.height);
  return (
    <svg
      className="silhouette"
      width={drawn.width * scale}
      height={drawn.height * scale}
      viewBox={`0 0 ${drawn.width} ${drawn.height}`}
      aria-hidden="true"
    >
      {[...walk(root)].map((part) => {
        const box = result.parts.get(part.id);
        if (!box || (part.kind === 'container' && !part.paint)) return null;
        const isText = part.kind === 'text';
        const y = isText ? box.y + box.height * 0.3 : box.y;
        return (
          <rect
            key={part.id}
            x={box.x}
            y={y}
            width={box.width}
            height={isText ? box.height * 0.42 : box.height}
            fill={fillOf(part)}
            stroke={part.paint?.stroke || part.paint?.fill ? 'var(--line)' : 'none'}
            strokeWidth={0.8 / scale}
          />
        );
      })}
    </svg>
  );
}
