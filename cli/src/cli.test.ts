import { execFile } from 'node:child_process';
import { mkdtemp, readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { checks } from '@varrup/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';

const root = join(import.meta.dirname, '../..');
let dir = '';

/** Runs the command as a shell would. */
const varrup = (...args: string[]): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [join(root, 'tools/varrup.mjs'), ...args], { cwd: dir }, (error, out, err) => {
      resolve({ code: error ? Number(error.code) : 0, out, err });
    });
  });

/** The same with something on its standard input. */
const piped = (input: Buffer, ...args: string[]): Promise<{ code: number; out: string }> =>
  new Promise((resolve) => {
    const child = execFile(process.execPath, [join(root, 'tools/varrup.mjs'), ...args], { cwd: dir }, (error, out) => {
      resolve({ code: error ? Number(error.code) : 0, out });
    });
    child.stdin?.end(input);
  });

beforeAll(async () => {
  dir = await mkdtemp(join(tmpdir(), 'varrup-cli-'));
  await varrup('demo', 'shots');
}, 60_000);
afterAll(() => rm(dir, { recursive: true, force: true }));

describe('varrup', () => {
  test('demo writes the shots, and eval tells where the float is', { timeout: 60_000 }, async () => {
    expect((await varrup('demo', 'shots')).code).toBe(0);
    expect(await readdir(join(dir, 'shots'))).toEqual([
      '00-practice-floor.json',
      '01-float-on-the-steps.json',
      '02-porter-crosses.json',
      '03-goat-on-the-wall.json',
      '04-heave-the-sack.json',
      '05-pile-driver.json',
      '09-ferry-board.json',
      '10-hand-signals.json',
      '11-snapping-toolbox.json',
    ]);
    expect(await varrup('validate', 'shots/11-snapping-toolbox.json')).toMatchObject({ code: 0 });
    const { out, code } = await varrup('eval', 'shots/01-float-on-the-steps.json', '--frame', '30');
    expect(code).toBe(0);
    const float = JSON.parse(out).members.find((m: { id: string }) => m.id === 'float');
    expect(float.channels['move.y']).toBeCloseTo(0.94, 9);
    expect(float.world.slice(12, 15)[1]).toBeCloseTo(0.94, 9);
    expect(float.world).toHaveLength(16);
  });

  test('check lists what it finds with its frame, and exits 1 where there is a fault', {
    timeout: 60_000,
  }, async () => {
    await varrup('demo', 'shots');
    const file = join(dir, 'shots/01-float-on-the-steps.json');
    expect(await varrup('check', file)).toMatchObject({ code: 0, out: `0 found by ${checks.length} checks\n` });
    const shot = JSON.parse(await readFile(file, 'utf8'));
    shot.members.steps.values['move.y'] = -0.005;
    await writeFile(join(dir, 'sunk.json'), JSON.stringify(shot));
    const sunk = await varrup('check', 'sunk.json');
    expect(sunk.code).toBe(1);
    expect(sunk.out).toMatch(/ 45 {2}Gap or dip at contact +Float floats 5\.0 mm above Steps where it lands, at 45\./);
    const [first] = JSON.parse((await varrup('check', 'sunk.json', '--json')).out);
    expect(first).toMatchObject({ check: 'contactGap', member: 'float', frame: 45, tolerance: 1 });
    expect(first.value).toBeCloseTo(5, 6);
  });

  test('validate exits 1 and says what is wrong and where', { timeout: 60_000 }, async () => {
    await varrup('demo', 'shots');
    const file = join(dir, 'shots/01-float-on-the-steps.json');
    expect((await varrup('validate', file)).code).toBe(0);
    const shot = JSON.parse(await readFile(file, 'utf8'));
    shot.members.float.parent = 'nobody';
    await writeFile(join(dir, 'broken.json'), JSON.stringify(shot));
    const broken = await varrup('validate', 'broken.json');
    expect(broken).toMatchObject({ code: 1, out: '' });
    expect(broken.err).toContain('/members/float/parent: names "nobody", who is not in the cast');
    await writeFile(join(dir, 'torn.json'), '{"version": 1,');
    expect((await varrup('validate', 'torn.json')).err).toMatch(/is not JSON/);
    expect((await varrup('validate', 'missing.json')).err).toMatch(/cannot be read \(ENOENT\)/);
  });

  test('export hands a clip on as a file that stands by itself, and says how near it is', {
    timeout: 60_000,
  }, async () => {
    const shot = join(dir, 'shots/02-porter-crosses.json');
    const walk = await varrup('export', shot, '--to', 'walk.glb', '--clip', 'Weary', '--in-place');
    expect(walk).toMatchObject({ code: 0, out: '' });
    expect(walk.err).toMatch(/^wrote walk\.glb\nWeary: 1\.50 s, \d+ keys, 0\.0\d+ mm and 0\.00\d+° off at most\n/);
    expect((await readFile(join(dir, 'walk.glb'))).subarray(0, 4).toString()).toBe('glTF');
    const capture = await varrup('export', shot, '--to', 'c.bvh', '--clip', 'Weary', '--rate', '30', '--quiet');
    expect(capture).toEqual({ code: 0, out: '', err: '' });
    expect(await readFile(join(dir, 'c.bvh'), 'utf8')).toMatch(/^HIERARCHY\nROOT hips\n[\s\S]*Frames: 46\n/);
  });

  test('export reads the standard input and writes to the standard output', { timeout: 60_000 }, async () => {
    const input = await readFile(join(dir, 'shots/01-float-on-the-steps.json'));
    const table = await piped(input, 'export', '-', '--to', '-', '--format', 'curves-wide', '--member', 'Float');
    expect(table.code).toBe(0);
    expect(table.out.split('\r\n')[0]).toMatch(/^frame,seconds,.*Float: move y \(m\)/);
    expect(table.out.split('\r\n')).toHaveLength(170);
  });

  test.each([
    [['--to', 'x.foo'], 'ends like no format'],
    [['--to', '-'], 'Say with --format'],
    [['--to', 'x.glb', '--clip', 'Nope'], 'There is no clip “Nope”; there are'],
    [['--to', 'x.glb', '--member', 'Nobody'], 'nobody called “Nobody”'],
    [['--to', 'x.glb', '--frames', '9-3'], 'ends before it begins'],
    [['--to', 'x.glb', '--scale', '0'], '--scale'],
    [['--to', 'none/x.glb', '--clip', 'Weary'], 'cannot be written (ENOENT)'],
  ])('export %j says what is wrong and ends with 1', { timeout: 60_000 }, async (options, why) => {
    const { code, out, err } = await varrup('export', 'shots/02-porter-crosses.json', ...options);
    expect({ code, out }).toEqual({ code: 1, out: '' });
    expect(err).toContain(why);
  });

  test('import makes a rig and a shot of what was handed on, which the other commands read', {
    timeout: 60_000,
  }, async () => {
    await varrup('export', 'shots/02-porter-crosses.json', '--to', 'weary.bvh', '--clip', 'Weary', '--quiet');
    const taken = await varrup('import', 'weary.bvh', '--to', 'taken');
    expect(taken).toMatchObject({ code: 0, out: '' });
    expect(taken.err).toMatch(
      /^wrote taken\/weary\.rig\.json and taken\/weary\.shot\.json\n60 joints, \d+ meshes, 1 clips\n/,
    );
    expect(await varrup('validate', 'taken/weary.shot.json')).toMatchObject({ code: 0 });
    const { out } = await varrup('eval', 'taken/weary.shot.json', '--frame', '5');
    expect(JSON.parse(out).members.some((m: { name: string }) => m.name === 'hips')).toBe(true);
    const again = await varrup('export', 'taken/weary.shot.json', '--to', 'again.glb', '--clip', 'all', '--quiet');
    expect(again).toEqual({ code: 0, out: '', err: '' });
    expect(await varrup('import', 'shots/02-porter-crosses.json', '--to', 'taken')).toMatchObject({ code: 1, out: '' });
  });
});
