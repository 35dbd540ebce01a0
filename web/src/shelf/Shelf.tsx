import { Button, Input } from 'antd';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api } from '../api/client';
import { Trouble, Waiting } from '../look/States';
import { TopBar } from '../look/TopBar';
import { BinOnShelf } from './Bin';
import { ShelvedName } from './ShelvedName';
import { Silhouette } from './Silhouette';

/** The shelf of projects. */
export function Shelf() {
  const projects = useQuery({ queryKey: ['projects'], queryFn: api.projects });
  const client = useQueryClient();
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const file = useRef<HTMLInputElement>(null);
  const create = useMutation({
    mutationFn: api.createProject,
    onSuccess: async (project) => {
      await client.invalidateQueries({ queryKey: ['projects'] });
      await navigate(`/projects/${project.id}`);
    },
  });
  const open = useMutation({
    mutationFn: async (chosen: File) => api.openProject(await chosen.arrayBuffer()),
    onSuccess: async (project) => {
      await client.invalidateQueries({ queryKey: ['projects'] });
      await navigate(`/projects/${project.id}`);
    },
  });
  const failed = create.error ?? open.error;
  if (projects.isPending) return <Waiting what="Fetching the shelf" />;
  if (projects.isError)
    return <Trouble message={projects.error.message} retry={() => void projects.refetch()} />;
  const submit = () => {
    if (name.trim() !== '') create.mutate(name.trim());
  };
  return (
    <div className="page">
      <TopBar path={[]} />
      <main className="desk">
        <div className="desk-head">
          <h1>Projects</h1>
          <form
            className="new-project"
            onSubmit={(e) => {
              e.preventDefault();
              submit();
            }}
          >
            <Input
              value={name}
              maxLength={200}
              placeholder="Name of a new project"
              aria-label="Name of a new project"
              onChange={(e) => {
                setName(e.target.value);
              }}
            />
            <Button type="primary" htmlType="submit" loading={create.isPending} disabled={name.trim() === ''}>
              Add project
            </Button>
            <input
              ref={file}
              className="unseen"
              type="file"
              accept=".zip,application/zip"
              tabIndex={-1}
              aria-label="Choose a project file"
              onChange={(e) => {
                const [chosen] = e.currentTarget.files ?? [];
                e.currentTarget.value = '';
                if (chosen) open.mutate(chosen);
              }}
            />
            <Button loading={open.isPending} onClick={() => file.current?.click()}>
              Open a project file
            </Button>
          </form>
        </div>
        {failed && (
          <p className="refusal" role="alert">
            {failed.message}
          </p>
        )}
        {projects.data.length === 0 ? (
          <div className="empty">
            <h2>The shelf is empty</h2>
            <p>
              A project holds the screens of one product. Name one above, then bring in a drawing: one of your
              own, or one of ours, which are offered there.
            </p>
          </div>
        ) : (
          <ul className="shelf">
            {projects.data.map((p) => (
              <li key={p.id} className="shelved">
                <ShelvedName what="projects" id={p.id} name={p.name} />
                <Link to={`/projects/${p.id}`} className="folder">
                  <span className="folder-screens">
                    {p.preview.length === 0 ? (
                      <span>no drawing yet</span>
                    ) : (
                      p.preview.map((id) => <Silhouette key={id} screenId={id} width={140} height={118} />)
                    )}
                  </span>
                  <span className="folder-name">{p.name}</span>
                  <span className="folder-facts">
                    {p.screens === 1 ? '1 screen' : `${p.screens} screens`} · since{' '}
                    {new Date(p.createdAt).toLocaleDateString('en-GB')}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        )}
        <BinOnShelf />
      </main>
    </div>
  );
}
