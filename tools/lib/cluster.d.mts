/** A PostgreSQL server of its own in a folder; `stop` does nothing where it ran before. */
export type Cluster = {
  port: number;
  /** The password of the role that owns everything. */
  password: string;
  /** The password of the application's role. */
  app: string;
  place: string;
  stop: () => void;
  isRunning: () => boolean;
};
export function openCluster(dir: string, options?: { fast?: boolean; port?: number }): Promise<Cluster>;
/** The one of a folder if it runs. */
export function runningCluster(dir: string): Omit<Cluster, 'stop' | 'isRunning'> | undefined;
export function ownerUrl(cluster: Pick<Cluster, 'port' | 'password'>, database: string): string;
export function appUrl(cluster: Pick<Cluster, 'port' | 'app'>, database: string): string;
