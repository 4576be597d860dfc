/** A PostgreSQL server of our own. */
export interface Postgres {
  folder: string;
  database(): Promise<string>;
  crash(): void;
  kill(): void;
  revive(): Promise<void>;
  cut(count: number): Promise<unknown>;
  stop(): void;
}

export function postgresPrograms(): string | undefined;
export function startPostgres(options?: { prepare?: (folder: string) => () => void }): Promise<Postgres>;
