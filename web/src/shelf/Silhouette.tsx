import { useQuery } from '@tanstack/react-query';
import { Engine, reflow } from '@tinfold/core/layout';
import { standing } from '@tinfold/core/model';
import { api } from '../api/client';
import { Outline } from '../look/Outline';
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
  const root = standing(structure, { width });
  return { drawn: structure.drawn, root, reflow: reflow(root, width, engine) };
}

/** A small line picture of a whole screen. */
export function Silhouette({ screenId, width, height }: SilhouetteProps) {
  const data = useQuery({ queryKey: ['silhouette', screenId], queryFn: () => load(screenId) });
  if (!data.data) return <svg width={width} height={height} className="silhouette" aria-hidden="true" />;
  const { drawn, root, reflow: result } = data.data;
  const scale = Math.min(width / drawn.width, height / drawn.height);
  return (
    <Outline
      root={root}
      reflow={result}
      view={{ x: 0, y: 0, ...drawn }}
      width={drawn.width * scale}
      height={drawn.height * scale}
    />
  );
}
