import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { freePort, newFolder, READY, running, Start } from './testing/started.ts';

/** The server and the database killed while four people work at one shot: nothing that was acknowledged is lost, nothing is there twice. */

interface Answer {
  readonly revision?: number;
  readonly error?: string;
}
interface Since {
  readonly edits: readonly { readonly id: string; readonly revision: number }[];
}

const KEPT_BACK = 60;

test('nothing acknowledged is lost, nothing is done twice, and all of it reads', async () => {
  const folder = newFolder();
  const start = new Start(folder, await freePort());
  await start.says(READY);
  const { id: production } = await start.ask<{ id: string }>('/productions', 'POST', { name: 'Storm' });
  const { id: shot } = await start.ask<{ id: string }>(`/productions/${production}/shots`, 'POST', { name: 'Gale' });

  let over = false;
  let done = 0;
  /** Brings one group after another in, each sent again until it is acknowledged, as the desk does. */
  const works = async (who: string): Promise<string[]> => {
    const acknowledged: string[] = [];
    let base = 0;
    for (let n = 0; !over; n++) {
      const id = `${who}${n}`;
      const value = { id, kind: 'group', name: id, parent: null, rank: n, shape: {} };
      const edit = { id, command: 'member.add', label: id, patches: [{ op: 'add', path: `/members/${id}`, value }] };
      while (!over) {
        const answer = await start
          .ask<Answer>(`/shots/${shot}/edits`, 'POST', { base, edits: [edit] })
          .catch((): Answer => ({}));
        // A refusal has a revision as well.
        if (answer.error === undefined && answer.revision !== undefined) {
          base = answer.revision;
          acknowledged.push(id);
          done++;
          break;
        }
        await new Promise((later) => setTimeout(later, KEPT_BACK));
      }
    }
    return acknowledged;
  };
  const people = ['a', 'b', 'c', 'd'].map(works);
  /** Until as many more have been acknowledged. */
  const more = async (count: number) => {
    const before = done;
    while (done < before + count) await new Promise((later) => setTimeout(later, 20));
  };

  const server = () => running(folder, 'server/dist/main.js')[0] ?? 0;
  const postmaster = () =>
    running(folder, join(folder, 'db')).find((pid) =>
      readFileSync(`/proc/${pid}/cmdline`, 'latin1').split('\0')[0].endsWith('/postgres'),
    ) ?? 0;
  const back = async (who: () => number, killed: number) => {
    while (who() === killed || who() === 0) await new Promise((later) => setTimeout(later, 50));
    // And at work.
    for (;;) {
      const answers = await start.ask(`/shots/${shot}`).then(
        (given) => (given as { revision?: number }).revision !== undefined,
        () => false,
      );
      if (answers) return;
      await new Promise((later) => setTimeout(later, 50));
    }
  };
  for (const who of [server, postmaster, server, postmaster, server]) {
    await more(30);
    const pid = who();
    expect(pid).toBeGreaterThan(0);
    process.kill(pid, 'SIGKILL');
    await back(who, pid);
  }
  await more(30);
  over = true;
  const acknowledged = (await Promise.all(people)).flat();
  expect(acknowledged).toHaveLength(done);

  const log: string[] = [];
  for (let goesOn = true, since = 0; goesOn; ) {
    const page = await start.ask<Since & { more: boolean }>(`/shots/${shot}/edits?since=${since}`);
    log.push(...page.edits.map((edit) => edit.id));
    since = page.edits.at(-1)?.revision ?? since;
    goesOn = page.more;
  }
  expect(new Set(log).size).toBe(log.length);
  expect(log).toEqual(expect.arrayContaining(acknowledged));
  const verified = new Start(folder, 0, ['tools/varrup.mjs', 'verify']);
  expect(await verified.over).toBe(0);
  await start.end();
});
