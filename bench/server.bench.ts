import { readFileSync } from 'node:fs';
import { Worker } from 'node:worker_threads';
import { newId } from '@varrup/core';
import { rigs } from './cast.ts';
import { report, row } from './row.ts';

/** The server as it is started, on the machine alone: commits, opening, thirty people at once, and what would hold it up. */

const address = process.env.VARRUP_ADDRESS!;
const server = Number(process.env.VARRUP_SERVER);

interface Answer {
  readonly status: number;
  readonly body: { readonly id: string; readonly revision: number };
}
async function send(method: string, path: string, body?: string): Promise<Answer> {
  const headers = { 'x-varrup': 'bench', 'content-type': 'application/json' };
  const answer = await fetch(address + path, { method, headers, body });
  const text = await answer.text();
  return { status: answer.status, body: text === '' ? null : JSON.parse(text) };
}
const made = async (path: string, body: unknown) => (await send('POST', path, JSON.stringify(body))).body.id;

/** A shot with so many keys. */
function document(rigCount: number, keys: number) {
  const { rigs: _, ...rest } = rigs(rigCount, 60, keys, 12);
  return { document: rest, path: rest.curves.keys()[5] };
}

const sorted = (times: readonly number[]) => [...times].sort((a, b) => a - b);
const at = (times: readonly number[], share: number) => sorted(times)[Math.floor((times.length - 1) * share)];

/** Sends small edits, one after another. @returns how long each took, in milliseconds, and the revision in the end */
async function commits(id: string, path: string, count: number, base: number) {
  const times: number[] = [];
  let revision = base;
  for (let i = 0; i < count; i++) {
    const patches = [{ op: 'replace', path: `/curves/${path}/keys/1/value`, value: i % 7 }];
    const body = JSON.stringify({
      base: revision,
      edits: [{ id: newId(), command: 'key.set', label: 'a key', patches }],
    });
    const begun = performance.now();
    const answer = await send('POST', `/api/shots/${id}/edits`, body);
    times.push(performance.now() - begun);
    if (answer.status !== 200) throw new Error(JSON.stringify(answer));
    revision = answer.body.revision;
  }
  return { times, revision };
}

const production = await made('/api/productions', { name: 'Bench' });
const large = document(14, 10);
const big = await made(`/api/productions/${production}/shots`, { name: 'Large', document: large.document });
await commits(big, large.path, 5, 0);
const early = await commits(big, large.path, 60, 5);
// Until a long log.
const later = await commits(big, large.path, 3_000, early.revision);
const late = later.times.slice(-60);

const opening: number[] = [];
for (let i = 0; i < 9; i++) {
  const begun = performance.now();
  await (await fetch(`${address}/api/shots/${big}`)).arrayBuffer();
  opening.push(performance.now() - begun);
}

/** Thirty people with 10,000 keys each, an edit a second; in a thread of their own, so that they are not held up themselves. */
const people = 30;
const middle = document(3, 9);
const shots = await Promise.all(
  Array.from({ length: people }, (_, i) =>
    made(`/api/productions/${production}/shots`, { name: `Shot ${i}`, document: middle.document }),
  ),
);
// Each has begun to work.
for (const id of shots) await commits(id, middle.path, 1, 0);
const SECONDS = 12;
const crowd = await new Promise<{ times: number[]; seconds: number }>((done) => {
  const code = `
    const { parentPort, workerData: { address, shots, path, seconds } } = require('node:worker_threads');
    const times = [];
    const begun = performance.now();
    const one = async (id, i) => {
      let base = 1;
      await new Promise((r) => setTimeout(r, (i * 1000) / shots.length));
      for (let n = 0; n < seconds; n++) {
        const t = performance.now();
        const patches = [{ op: 'replace', path: '/curves/' + path + '/keys/1/value', value: n }];
        const edits = [{ id: 'e' + i + 'n' + n, command: 'key.set', label: 'a key', patches }];
        const answer = await fetch(address + '/api/shots/' + id + '/edits', { method: 'POST', headers: { 'x-varrup': 'b', 'content-type': 'application/json' }, body: JSON.stringify({ base, edits }) });
        base = (await answer.json()).revision;
        times.push(performance.now() - t);
        await new Promise((r) => setTimeout(r, Math.max(0, 1000 - (performance.now() - t))));
      }
    };
    Promise.all(shots.map(one)).then(() => parentPort.postMessage({ times, seconds: (performance.now() - begun) / 1000 }));
  `;
  const workerData = { address, shots, path: middle.path, seconds: SECONDS };
  const worker = new Worker(code, { eval: true, workerData });
  worker.once('message', done);
});

/** What would hold it up, while somebody works: how long each takes to be refused, and how long the others wait meanwhile. */
const many = (count: number, of: (i: number) => string) => Array.from({ length: count }, (_, i) => of(i)).join(',');
const edit = (patches: string) =>
  `{"base":0,"edits":[{"id":"${newId()}","command":"key.set","label":"x","patches":[${patches}]}]}`;
const put = (path: string, value: string) => edit(`{"op":"replace","path":"${path}","value":${value}}`);
const key = '{"frame":F,"value":0,"in":{"kind":"smooth"},"out":{"kind":"smooth"},"joined":true,"role":"key"}';
const keys = (count: number) => `[${many(count, (i) => key.replace('F', String(i)))}]`;
const attacks = [
  put('/name', `[${many(5_000_000, () => '[]')}]`),
  put('/name', `[${many(1_400_000, () => '[]')}]`),
  put('/members', `{${many(1_000_000, (i) => `"m${i}":1`)}}`),
  put('/members', `{${many(140_000, (i) => `"m${i}":{"id":[]}`)}}`),
  edit(many(400_000, (i) => `{"op":"add","path":"/sets/s${i}","value":1}`)),
  edit(many(400_000, () => '{"op":"add","path":"/watch/ignored/0","value":1}')),
  put('/curves', `{${many(50_001, (i) => `"r0j0.move.${i}":{"type":"number","keys":${keys(1)}}`)}}`),
  put('/curves/r0j0.move.x/keys', keys(200_001)),
  put(
    '/formulas',
    `{${many(4_000, (i) => `"r0j0.custom.c${i}":{"text":"${'('.repeat(60)}","inputs":[],"mode":"add"}`)}}`,
  ),
  put('/members', '{}'),
  put('/name', `"${'x'.repeat(60_000_000)}"`),
];
const shared = new Float64Array(new SharedArrayBuffer(8 * 20_000));
const worker = new Worker(
  `
    const { workerData: { address, id, path, shared } } = require('node:worker_threads');
    (async () => {
      for (let base = ${SECONDS + 1}, n = 0; ; n++) {
        const t = performance.now();
        const patches = [{ op: 'replace', path: '/curves/' + path + '/keys/1/value', value: n }];
        const edits = [{ id: 'g' + n, command: 'key.set', label: 'a key', patches }];
        const answer = await fetch(address + '/api/shots/' + id + '/edits', { method: 'POST', headers: { 'x-varrup': 'b', 'content-type': 'application/json' }, body: JSON.stringify({ base, edits }) });
        base = (await answer.json()).revision;
        shared[1 + shared[0]++] = performance.now() - t;
        await new Promise((r) => setTimeout(r, 20));
      }
    })();
  `,
  { eval: true, workerData: { address, id: shots[0], path: middle.path, shared } },
);
const refusing: number[] = [];
for (const body of attacks) {
  const begun = performance.now();
  const { status } = await send(
    'POST',
    `/api/shots/${big}/edits`,
    body.replace('"base":0', `"base":${later.revision}`),
  );
  refusing.push(performance.now() - begun);
  if (status < 400 || status >= 500) throw new Error(`It was answered ${status}: ${body.slice(0, 200)}`);
}
await worker.terminate();
/** What only the reading of all of it can find out. */
const almost = put('/curves/r0j0.move.x/keys', keys(190_000).replace(/"key"}]$/, '"lock"}]'));
const almostBegun = performance.now();
const { status: almostStatus } = await send(
  'POST',
  `/api/shots/${big}/edits`,
  almost.replace('"base":0', `"base":${later.revision}`),
);
const almostTook = performance.now() - almostBegun;
if (almostStatus !== 422) throw new Error(`It was answered ${almostStatus}.`);
const meanwhile = [...shared.subarray(1, 1 + shared[0])];
const memory = Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${server}/status`, 'utf8'))![1]) / 1000;

report([
  row('a small commit to 50,000 keys', at(early.times, 0.5), 'ms', 15),
  row('  at the 3,000th edit, against the 10th', at(late, 0.5) / at(early.times, 0.5), 'ratio', 1.3),
  row('opening 50,000 keys, the server’s part', at(opening, 0.5), 'ms', 250),
  row('thirty people, an edit a second: seconds an edit', crowd.seconds / crowd.times.length, 'ratio', 1 / 27),
  row('  the slowest of twenty', at(crowd.times, 0.95), 'ms', 150),
  row('the slowest of bad requests to be refused', Math.max(...refusing), 'ms', 500),
  row('  the slowest good one meanwhile', Math.max(...meanwhile), 'ms', 150),
  row('a curve of 190,000 keys, the last one wrong', almostTook, 'ms', 2000),
  row('memory of the server through all of it, in units of 400 MB', memory / 400, 'ratio', 1),
]);
