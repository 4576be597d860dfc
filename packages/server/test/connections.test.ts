import { connectionsTo } from '@glenmark/server';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Postgres, postgresPrograms, startPostgres } from '../../../scripts/postgres.mjs';
import { silent } from './test-server.js';

// An error that nobody hears would end a server; here it would fail the run.
describe.skipIf(postgresPrograms() === undefined)('a connection to PostgreSQL that is cut', () => {
  let postgres: Postgres;
  let url: string;
  beforeAll(async () => {
    postgres = await startPostgres();
    url = await postgres.database();
  });
  afterAll(() => postgres.stop());

  it.each([
    ['while nobody uses it', []],
    ['in a transaction, between two statements', ['begin']],
  ])('%s ends nothing but itself', async (_, statements) => {
    const pool = connectionsTo(url, silent);
    const client = await pool.connect();
    for (const statement of statements) await client.query(statement);
    if (statements.length === 0) client.release();
    await postgres.cut(10);
    if (statements.length > 0) {
      await new Promise((later) => setTimeout(later, 200));
      await expect(client.query('select 1')).rejects.toThrow();
      client.release();
    }
    await expect.poll(async () => (await pool.query('select 1 as one')).rows).toEqual([{ one: 1 }]);
    await pool.end();
  });

  it('in the middle of a statement fails that one', async () => {
    const pool = connectionsTo(url, silent);
    const asked = expect(pool.query('select pg_sleep(60)')).rejects.toThrow('terminating connection');
    const isAsked = async (): Promise<boolean> =>
      (await pool.query(`select 1 from pg_stat_activity where query = 'select pg_sleep(60)'`)).rows.length >
      0;
    await expect.poll(isAsked).toBe(true);
    await postgres.cut(10);
    await asked;
    await pool.end();
  });
});
