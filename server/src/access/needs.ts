/** What somebody may do in a project; each may do what those before may. */
export const ROLES = ['viewer', 'editor', 'owner'] as const;
export type Role = (typeof ROLES)[number];

/** What an id in an address names; all of them belong to a project. */
export type Named = 'project' | 'screen' | 'handoff' | 'font' | 'link' | 'job';

/** What it takes to use a route: nothing, to be signed in, or a role in the project of what its address names. */
export type Need = 'anyone' | 'account' | { readonly of: Named; readonly role: Role };

export type Method = 'get' | 'post' | 'put' | 'patch' | 'delete';
export type Line = readonly [method: Method, path: string, need: Need];

const of = (named: Named, role: Role): Need => ({ of: named, role });

/** Every route below /api. */
export const NEEDS: readonly Line[] = [
  ['get', '/session', 'anyone'],
  ['post', '/session', 'anyone'],
  ['delete', '/session', 'anyone'],
  ['delete', '/sessions', 'account'],
  // Who holds the token of an invitation or a link has all that it takes.
  ['get', '/invitations/:token', 'anyone'],
  ['post', '/invitations/:token', 'anyone'],
  ['get', '/shared/:token', 'anyone'],
  ['get', '/shared/:token/fonts/:id/file', 'anyone'],

  ['get', '/projects', 'account'],
  ['post', '/projects', 'account'],
  ['post', '/projects/file', 'account'],
  ['get', '/bin', 'account'],
  ['get', '/projects/:id', of('project', 'viewer')],
  ['get', '/projects/:id/file', of('project', 'viewer')],
  ['get', '/projects/:id/fonts', of('project', 'viewer')],
  ['get', '/projects/:id/people', of('project', 'viewer')],
  ['patch', '/projects/:id', of('project', 'editor')],
  ['put', '/projects/:id/order', of('project', 'editor')],
  ['post', '/projects/:id/screens', of('project', 'editor')],
  ['get', '/projects/:id/jobs', of('project', 'viewer')],
  ['post', '/projects/:id/readings', of('project', 'editor')],
  ['post', '/projects/:id/proofs', of('project', 'editor')],
  ['post', '/projects/:id/fonts', of('project', 'editor')],
  ['post', '/projects/:id/copy', of('project', 'viewer')],
  ['delete', '/projects/:id', of('project', 'owner')],
  ['post', '/projects/:id/restore', of('project', 'owner')],
  ['post', '/projects/:id/invitations', of('project', 'owner')],
  ['put', '/projects/:id/people/:account', of('project', 'owner')],
  ['delete', '/projects/:id/people/:account', of('project', 'owner')],

  ['get', '/screens/:id', of('screen', 'viewer')],
  ['get', '/screens/:id/steps', of('screen', 'viewer')],
  ['get', '/screens/:id/changes', of('screen', 'viewer')],
  ['get', '/screens/:id/proofs', of('screen', 'viewer')],
  ['get', '/screens/:id/handoffs', of('screen', 'viewer')],
  ['get', '/screens/:id/revisions', of('screen', 'viewer')],
  ['get', '/screens/:id/revisions/:revision', of('screen', 'viewer')],
  ['patch', '/screens/:id', of('screen', 'editor')],
  ['delete', '/screens/:id', of('screen', 'editor')],
  ['post', '/screens/:id/copy', of('screen', 'editor')],
  ['post', '/screens/:id/restore', of('screen', 'editor')],
  ['post', '/screens/:id/steps', of('screen', 'editor')],
  ['put', '/screens/:id/structure', of('screen', 'editor')],
  ['put', '/screens/:id/expectations', of('screen', 'editor')],
  ['put', '/screens/:id/left', of('screen', 'editor')],
  ['post', '/screens/:id/proofs', of('screen', 'editor')],
  ['post', '/screens/:id/handoffs', of('screen', 'editor')],
  ['put', '/screens/:id/revisions/:revision/name', of('screen', 'editor')],
  ['post', '/screens/:id/revisions/:revision/restore', of('screen', 'editor')],
  ['get', '/screens/:id/links', of('screen', 'editor')],
  ['post', '/screens/:id/links', of('screen', 'editor')],
  ['delete', '/links/:id', of('link', 'editor')],
  ['post', '/jobs/:id/retry', of('job', 'editor')],
  ['delete', '/jobs/:id', of('job', 'editor')],

  ['get', '/handoffs/:id/files.zip', of('handoff', 'viewer')],
  ['get', '/fonts/:id/file', of('font', 'viewer')],
  ['delete', '/fonts/:id', of('font', 'editor')],
];
