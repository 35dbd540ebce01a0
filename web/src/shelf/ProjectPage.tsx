import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Button } from 'antd';
import { Link, useNavigate, useParams } from 'react-router';
import { api, type ProjectDetail } from '../api/client';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { People } from '../doors/People';
import { ImportDrop } from './ImportDrop';
import { Jobs } from './Jobs';
import { ShelvedName } from './ShelvedName';
import { Silhouette } from './Silhouette';
import { useOrder } from './useOrder';

/** The px that a screen's small picture may take. */
const PICTURE = { width: 320, height: 200 };

/** A project's screens, and the place to bring in another drawing. */
export function ProjectPage() {
  const { projectId = '' } = useParams();
  const project = useQuery({ queryKey: ['project', projectId], queryFn: () => api.project(projectId) });
  const client = useQueryClient();
  const navigate = useNavigate();
  if (project.isPending) return <Waiting what="Fetching the project" />;
  if (project.isError)
    return <Trouble message={project.error.message} retry={() => void project.refetch()} />;
  const { name, screens } = project.data;
  const done = async (made: readonly string[]) => {
    await client.invalidateQueries({ queryKey: ['project', projectId] });
    if (made.length === 1) await navigate(`/screens/${made[0]}`);
  };
  return (
    <div className="page">
      <TopBar path={[{ label: name }]} />
      <main className="desk">
        <div className="desk-head">
          <h1>{name}</h1>
          <span className="desk-facts">
            {screens.length === 1 ? '1 screen' : `${screens.length} screens`}
          </span>
          {screens.length > 0 && <ProveAll projectId={projectId} />}
        </div>
        <ImportDrop projectId={projectId} isEmpty={screens.length === 0} onDone={(made) => void done(made)} />
        <Jobs projectId={projectId} />
        {screens.length === 0 && (
          <p className="hint">
            Each drawing becomes a screen: its structure is read at once and waits on the workbench. Drawing
            shows what was read, Structure is where it is put right, Proof finds where it breaks, Handoff is
            what leaves.
          </p>
        )}
        <Plates project={project.data} />
        <People projectId={projectId} />
      </main>
    </div>
  );
}

/** Has all screens proved beside, in all trials. */
function ProveAll({ projectId }: { readonly projectId: string }) {
  const client = useQueryClient();
  const prove = useMutation({
    mutationFn: () => api.proveAll(projectId),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs', projectId] }),
  });
  return (
    <>
      <Button
        size="small"
        loading={prove.isPending}
        onClick={() => {
          prove.mutate();
        }}
      >
        Prove all screens in all trials
      </Button>
      {prove.error && (
        <span className="refusal" role="alert">
          {prove.error.message}
        </span>
      )}
    </>
  );
}

/** The screens of a project, each with a small picture, in the order that they were put in. */
function Plates({ project }: { readonly project: ProjectDetail }) {
  const order = useOrder(project);
  return (
    <>
      {order.error !== undefined && (
        <p className="refusal" role="alert">
          {order.error}
        </p>
      )}
      <ul className="plates">
        {project.screens.map((s, i) => (
          <li key={s.id} className="shelved" data-dragged={order.dragged === i} {...order.handlers(i)}>
            <ShelvedName what="screens" id={s.id} name={s.name} move={order.by(i)} />
            <Link to={`/screens/${s.id}`} className="plate" draggable={false}>
              <span className="plate-picture" style={{ height: PICTURE.height + 24 }}>
                <Silhouette screenId={s.id} {...PICTURE} />
              </span>
              <span className="plate-words">
                <b>{s.name}</b>
                <span>
                  {s.drawings.map((d) => `${d.width} × ${d.height}`).join(', ')} · rev {s.revision}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </>
  );
}
