import {
  bringRig,
  type Curve,
  changeChannels,
  controlsOf,
  emptyShot,
  newRigMembers,
  Program,
  poseChannels,
  type Shot,
  Table,
  writeSkinMatrices,
} from '@varrup/core';
import { harbourRigs } from '@varrup/demo';
import { rigs } from './cast.ts';
import { mixersOf } from './mixers.ts';
import { allocated, median, report, row } from './row.ts';

/**
 * Whole rigs: a hundred porters, every move and turn of every control keyed, limbs, spines, feet, fingers and face worked out to
 * sixty joints each, against three's AnimationMixer on as many bare joints; and one porter posed by dragging a hand.
 */
const COUNT = 100;
const KEYS = 9;
const SPACING = 12;

function porters(count: number, keys: number): Shot {
  const length = (keys - 1) * SPACING + 1;
  let shot: Shot = {
    ...emptyShot('bench', 'Bench', harbourRigs()),
    range: { first: 1, last: length },
    play: { first: 1, last: length },
  };
  for (let i = 0; i < count; i++) {
    shot = bringRig.apply(shot, newRigMembers(shot, { rig: 'porter', version: 2, id: `p${i}` }));
  }
  const curves: Record<string, Curve> = {};
  for (let i = 0; i < count; i++) {
    for (const control of controlsOf(shot, `p${i}`)) {
      for (const channel of poseChannels(control, shot.rigs)) {
        if (channel.group !== 'move' && channel.group !== 'turn') continue;
        const seed = i * 31 + control.rank * 7 + channel.id.length;
        curves[`${control.id}.${channel.id}`] = {
          type: 'number',
          keys: Array.from({ length: keys }, (_, k) => ({
            frame: 1 + k * SPACING,
            value: 0.06 * Math.sin(seed + k * 1.7),
            in: { kind: 'smooth' },
            out: { kind: 'smooth' },
            joined: true,
            role: 'key',
          })),
          before: 'cycle',
          after: 'cycle',
        };
      }
    }
  }
  return { ...shot, curves: Table.of(curves) };
}

const crowd = new Program(porters(COUNT, KEYS));
const frame = crowd.createFrame();
let time = 1;
const ours = () => {
  time = time >= (KEYS - 1) * SPACING ? 1 : time + 1;
  crowd.evaluate(time, frame);
};
const theirs = mixersOf(rigs(COUNT, 60, KEYS, SPACING), COUNT, 60, KEYS, SPACING);
const rounds: { ours: number; theirs: number }[] = [];
for (let i = 0; i < 5; i++) rounds.push({ ours: await median(ours), theirs: await median(theirs) });
// A number handed on by itself is put into memory of its own where the compiler cannot see both ends: 31,000 of them are 500 KB.
const taken = await allocated(ours);
const middle = rounds.sort((a, b) => a.ours / a.theirs - b.ours / b.theirs)[2];

// One porter in a shot of more than 10,000 keys; its hand goes a little further at each turn, as under a pointer.
const long = porters(1, 80);
const keyCount = long.curves.values().reduce((n, c) => n + c.keys.length, 0);
if (keyCount < 8_000) throw new Error(`The shot has only ${keyCount} keys.`);
const program = new Program(long);
const now = program.createFrame();
const matrices = new Float32Array(now.layout.rigs[0].compiled.rig.joints.length * 16);
let by = 0;
const drag = await median(() => {
  by = (by + 0.001) % 0.2;
  const values = { 'p0-handL.move.x': by, 'p0-handL.move.y': by, 'p0-handL.move.z': by };
  program.update(changeChannels.apply(long, { frame: 40, values, autoKey: 'off' }));
  program.evaluate(40, now);
  writeSkinMatrices(now, now.layout.rigs[0], matrices);
});

report([
  row('evaluate 100 porters, against a mixer of as many bare joints', middle.ours / middle.theirs, 'ratio', 0.5),
  row('  the same in milliseconds', middle.ours, 'ms', 16.7),
  row('  memory taken by a frame of them', taken, 'KB', 16),
  row(`a hand dragged to the new frame, ${keyCount} keys`, drag, 'ms', 4),
]);
