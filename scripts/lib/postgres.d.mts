export function findPostgres(): string | undefined;
export function clusterFolder(wanted: string): string;
export function startPostgres(options: {
  folder: string;
  port?: number;
}): Promise<{ url: string; pid: number; stop: () => Promise<void> }>;
export function startTemporaryPostgres(): Promise<{ url: string; stop: () => Promise<void> }>;
export function freePort(): Promise<number>;
