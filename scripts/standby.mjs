import { chownSync, copyFileSync, mkdirSync } from 'node:fs';
import { passwordFile, run, servant, startCluster } from './postgres.mjs';
import { Trouble } from './setup.mjs';

/** Runs a program of PostgreSQL's on a cluster, and says what it printed. */
function ran(cluster, program, args) {
  const { password } = new URL(cluster.url('postgres'));
  const done = run(cluster.bin, program, args, servant(), { env: { PGPASSWORD: password } });
  if (done.status !== 0) throw new Trouble(`${program} failed:\n${done.stderr}`);
  return done.stdout.trim();
}

/** One statement on a cluster. */
export const told = (cluster, statement, database = 'postgres') =>
  ran(cluster, 'psql', ['-d', cluster.url(database), '-Atc', statement]);

/** A copy of a cluster's files, as a backup or as a standby's beginning. */
export function baseBackup(cluster, data, args = []) {
  const user = servant();
  mkdirSync(data, { recursive: true, mode: 0o700 });
  if (user) chownSync(data, user.uid, user.gid);
  ran(cluster, 'pg_basebackup', ['-D', data, '-X', 'stream', '-c', 'fast', '-d', cluster.url('postgres'), ...args]);
  copyFileSync(passwordFile(cluster.data), passwordFile(data));
}

/** A standby of a cluster, kept up to date by streaming. */
export async function startStandby(cluster, data) {
  baseBackup(cluster, data, ['-R']);
  return startCluster(data, { standby: true });
}
