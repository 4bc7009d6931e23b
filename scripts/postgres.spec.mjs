import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import pg from 'pg';
import { ensureDatabase, ownDatabase, startCluster } from './postgres.mjs';

/** Life of a cluster, on one of its own. */
let folder;
let data;
const running = [];
const start = async () => {
  const cluster = await startCluster(data, { durable: false });
  running.push(cluster);
  return cluster;
};
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'vane-cluster-'));
  chmodSync(folder, 0o755);
  data = join(folder, 'postgres');
});
afterEach(() => {
  for (const cluster of running.splice(0)) cluster.stop();
  rmSync(folder, { recursive: true, force: true });
});

async function asked(url, text) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return (await client.query(text)).rows;
  } finally {
    await client.end();
  }
}
const without = (url) => {
  const open = new URL(url);
  open.password = '';
  return open.href;
};

describe('the folder of the database @long', () => {
  it('that has lost its PG_VERSION is refused by name, and nothing in it is touched', async () => {
    const cluster = await start();
    await asked(cluster.url('postgres'), 'create table school (name text)');
    await asked(cluster.url('postgres'), `insert into school values ('Saltmarsh')`);
    cluster.stop();
    renameSync(join(data, 'PG_VERSION'), join(folder, 'kept'));
    await expect(start()).rejects.toThrow(new RegExp(`${data} holds files, but no PG_VERSION.*Nothing was changed`));
    renameSync(join(folder, 'kept'), join(data, 'PG_VERSION'));
    const again = await start();
    expect(await asked(again.url('postgres'), 'select name from school')).toEqual([{ name: 'Saltmarsh' }]);
  });

  it('that holds something else is left as it is; an empty one is taken', async () => {
    mkdirSync(data);
    writeFileSync(join(data, 'letter.txt'), 'mine');
    await expect(start()).rejects.toThrow(/Nothing was changed/);
    expect(readFileSync(join(data, 'letter.txt'), 'utf8')).toBe('mine');
    rmSync(join(data, 'letter.txt'));
    expect((await start()).running()).toBe(true);
  });

  it('of a PostgreSQL that is not here is refused with the way on, not started by another', async () => {
    const cluster = await start();
    cluster.stop();
    writeFileSync(join(data, 'PG_VERSION'), '9\n');
    await expect(start()).rejects.toThrow(/made by PostgreSQL 9, whose programs are not on this machine.*postgresql-9/);
  });
});

describe('who may connect @long', () => {
  it('is whoever has the password, which lies in a file of its own for nobody else', async () => {
    const cluster = await start();
    expect(statSync(`${data}.password`).mode & 0o777).toBe(0o600);
    expect(await asked(cluster.url('postgres'), 'select 1 as one')).toEqual([{ one: 1 }]);
    await expect(asked(without(cluster.url('postgres')), 'select 1')).rejects.toThrow(/password/);
  });

  it('a cluster of before there were passwords gets one at its next start, with all that is in it', async () => {
    const first = await start();
    await asked(first.url('postgres'), 'create table child (name text)');
    first.stop();
    // As they were made: everybody on this machine is let in.
    writeFileSync(join(data, 'pg_hba.conf'), 'local all all trust\nhost all all 127.0.0.1/32 trust\n');
    rmSync(`${data}.password`);
    const cluster = await start();
    expect(existsSync(`${data}.password`)).toBe(true);
    await expect(asked(without(cluster.url('postgres')), 'select 1')).rejects.toThrow(/password/);
    expect(await asked(cluster.url('postgres'), 'select count(*)::int as n from child')).toEqual([{ n: 0 }]);
  });
});

describe('Vane’s own role', () => {
  it('owns its database, also one that was the superuser’s, and reaches nothing outside it', async () => {
    const cluster = await start();
    ensureDatabase(cluster, 'vane');
    await asked(
      cluster.url('vane'),
      `create schema vane_jobs; create table vane_jobs.job (id serial primary key);
       create type mood as enum ('calm'); create view jobs as select * from vane_jobs.job;
       create table response (id int, taken mood) partition by hash (id); create table response_0 partition of response for values with (modulus 1, remainder 0);
       create function kept() returns trigger language plpgsql as 'begin return new; end';
       create trigger kept before insert on response for each row execute function kept(); insert into response values (1, 'calm')`,
    );
    const url = ownDatabase(cluster, 'vane');
    expect(url).toBe(ownDatabase(cluster, 'vane'));
    expect(statSync(`${data}.server.password`).mode & 0o777).toBe(0o600);
    expect(await asked(url, 'select rolname, rolsuper from pg_roles where rolname = current_user')).toEqual([
      { rolname: 'vane_server', rolsuper: false },
    ]);
    await asked(
      url,
      `alter table response add column more int; drop trigger kept on response; drop function kept(); drop view jobs;
       alter type mood add value 'loud'; drop schema vane_jobs cascade; create schema vane_jobs`,
    );
    await asked(url, 'create database beside');
    expect(await asked(url, 'select id, taken from response')).toEqual([{ id: 1, taken: 'calm' }]);
    await expect(asked(url, `copy response to program 'true'`)).rejects.toThrow(/permission denied|must be/);
    await expect(asked(url, `select pg_read_file('/etc/hostname')`)).rejects.toThrow(/permission denied/);
  });
});

describe('the log of the database @long', () => {
  it('holds nothing of what failed: neither statements nor values', async () => {
    const cluster = await start();
    const url = cluster.url('postgres');
    await asked(url, 'create table child (nickname text primary key)');
    await asked(url, `insert into child values ('Zadie')`);
    await expect(asked(url, `insert into child values ('Zadie')`)).rejects.toThrow(/duplicate/);
    await expect(asked(url, `select 'Zadie'::int`)).rejects.toThrow(/invalid input/);
    await expect(asked(url, `select Zadie from child`)).rejects.toThrow(/zadie/);
    cluster.stop();
    expect(readFileSync(join(data, 'server.log'), 'utf8')).not.toMatch(/zadie/i);
  });
});
