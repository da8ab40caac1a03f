import { Worker } from 'node:worker_threads';
import { report, row } from './row.ts';

/** Many at one shot, each sending an edit as soon as the last one is saved; and somebody alone at another shot meanwhile. */

const address = process.env.VARRUP_ADDRESS!;
const SECONDS = 8;

const made = async (path: string, name: string): Promise<string> => {
  const headers = { 'x-varrup': 'bench', 'content-type': 'application/json' };
  const answer = await fetch(address + path, { method: 'POST', headers, body: JSON.stringify({ name }) });
  return ((await answer.json()) as { id: string }).id;
};
const production = await made('/api/productions', 'Crowd');

/** Works at a shot for so long, in a thread of its own. @returns how long each edit took, in milliseconds */
function works(shot: string, people: number): Promise<number[]> {
  const code = `
    const { parentPort, workerData: { address, shot, people, seconds } } = require('node:worker_threads');
    const times = [];
    const send = async (base, edit) => {
      const headers = { 'x-varrup': 'bench', 'content-type': 'application/json' };
      const body = JSON.stringify({ base, edits: [{ ...edit, label: 'x' }] });
      const answer = await fetch(address + '/api/shots/' + shot + '/edits', { method: 'POST', headers, body });
      if (answer.status !== 200) throw new Error(await answer.text());
      return (await answer.json()).revision;
    };
    const one = async (i) => {
      const id = 'm' + i;
      const value = { id, kind: 'group', name: id, parent: null, rank: i, shape: {} };
      let base = await send(0, { id: 'a' + i, command: 'member.add', patches: [{ op: 'add', path: '/members/' + id, value }] });
      const until = performance.now() + seconds * 1000;
      for (let n = 0; performance.now() < until; n++) {
        const begun = performance.now();
        const patches = [{ op: 'replace', path: '/members/' + id + '/name', value: 'n' + n }];
        base = await send(base, { id: 'e' + i + 'n' + n, command: 'member.rename', patches });
        times.push(performance.now() - begun);
      }
    };
    Promise.all(Array.from({ length: people }, (_, i) => one(i))).then(() => parentPort.postMessage(times));
  `;
  const worker = new Worker(code, { eval: true, workerData: { address, shot, people, seconds: SECONDS } });
  return new Promise((done, failed) => {
    worker.once('message', done);
    worker.once('error', failed);
  });
}

const at = (times: readonly number[], share: number) =>
  [...times].sort((a, b) => a - b)[Math.floor((times.length - 1) * share)];

/** So many at one shot, and one at another. */
async function measure(people: number) {
  const [one, other] = [
    await made(`/api/productions/${production}/shots`, 'One'),
    await made(`/api/productions/${production}/shots`, 'Other'),
  ];
  const [crowd, alone] = await Promise.all([people > 0 ? works(one, people) : [], works(other, 1)]);
  return { slowest: at(crowd, 0.95), alone: at(alone, 0.5) };
}

// What is compiled well counts.
await measure(1);
const alone = (await measure(0)).alone;
const thirty = await measure(30);
const hundred = await measure(100);
report([
  row('thirty at one shot: the slowest of twenty', thirty.slowest, 'ms', 150),
  row('  somebody alone at another shot, against nobody there', thirty.alone / alone, 'ratio', 2),
  row('a hundred at one shot: the slowest of twenty', hundred.slowest, 'ms', 1000),
  row('  somebody alone at another shot, against nobody there', hundred.alone / alone, 'ratio', 2),
]);
