import {
  type Choices,
  type FormatName,
  formatNames,
  formats,
  handOn,
  Program,
  readArchive,
  readCurveTable,
  readPointCache,
  remarksOf,
  type Shot,
  Table,
  usualChoices,
} from '@varrup/core';
import { describe, expect, test } from 'vitest';
import { floatOnTheSteps } from '../shots/01-float-on-the-steps.ts';
import { goatOnTheWall } from '../shots/03-goat-on-the-wall.ts';
import { snappingToolbox } from '../shots/11-snapping-toolbox.ts';

const all = (shot: Shot, more: Partial<Choices> = {}): Choices => ({
  ...usualChoices,
  frames: shot.play,
  clips: shot.clips.keys(),
  rate: shot.rate,
  ...more,
});

describe('a shot is handed on as', () => {
  test.each(formatNames.filter((format) => format !== 'sound'))(
    '%s: files of that kind, each with something in it, and the motions they hold',
    async (format) => {
      const shot = goatOnTheWall();
      const { files, motions } = await handOn(shot, format, all(shot));
      expect(files[0].name.endsWith(`.${formats[format].extension}`)).toBe(true);
      expect(new Set(files.map((f) => f.name)).size).toBe(files.length);
      expect(files.every((f) => f.bytes.length > 100)).toBe(true);
      if (format !== 'archive') expect(motions).toHaveLength(4);
    },
  );

  test('curves, whose numbers are those of the shot at each frame', async () => {
    const shot = floatOnTheSteps();
    for (const format of ['curves-wide', 'curves-long'] as const) {
      const { files } = await handOn(shot, format, all(shot));
      const table = readCurveTable(String.fromCharCode(...files[0].bytes).replaceAll('Â°', '°'));
      const height = table.columns.find((c) => c.member === 'Float' && c.channel === 'move y')!;
      const program = new Program(shot);
      const frame = program.createFrame();
      table.frames.forEach((at, f) => {
        program.evaluate(at, frame);
        expect(height.values[f]).toBeCloseTo(frame.value('float', 'move.y')!, 5);
      });
    }
  });

  test('a point cache, whose points are as many in every frame, and an archive that opens as it was', async () => {
    const shot = snappingToolbox();
    const { files } = await handOn(shot, 'points', all(shot, { clips: [] }));
    const cache = readPointCache(files[0].bytes);
    expect(cache.frames).toBe(shot.play.last - shot.play.first + 1);
    expect(cache.bodies.map((b) => b.name)).toContain('Toolbox');
    const archive = await handOn(shot, 'archive', all(shot));
    expect(JSON.stringify(readArchive(archive.files[0].bytes).shot.members)).toBe(JSON.stringify(shot.members));
  });

  test('sound: a WAV as long as its frames, loud where something is heard', async () => {
    const shot = floatOnTheSteps();
    const { files, left } = await handOn(shot, 'sound', all(shot));
    expect(left).toEqual([]);
    const view = new DataView(files[0].bytes.buffer, files[0].bytes.byteOffset);
    const perFrame = view.getUint32(24, true) / shot.rate;
    expect((files[0].bytes.length - 44) / 2).toBe((shot.play.last - shot.play.first + 1) * perFrame);
    const loudest = (frame: number) => {
      const from = Math.round((frame - shot.play.first) * perFrame);
      return Math.max(...Array.from({ length: 2000 }, (_, i) => Math.abs(view.getInt16(44 + (from + i) * 2, true))));
    };
    const [firstSound] = shot.sounds.values().sort((a, b) => a.frame - b.frame);
    expect(loudest(firstSound.frame)).toBeGreaterThan(3_000);
    expect(loudest(firstSound.frame - 2)).toBe(0);
    await expect(handOn(goatOnTheWall(), 'sound', all(shot))).rejects.toThrow('has no sounds');
  });

  test.each<[FormatName, Partial<Choices>, string]>([
    ['glb', { frames: null, clips: [] }, 'There is no motion'],
    ['glb', { members: ['nobody'] }, 'nobody to hand on'],
    ['bvh', { members: ['crate'] }, 'no rig among those'],
    ['curves-wide', { members: ['crate'], clips: [] }, 'No channel'],
    ['points', { members: ['camera'] }, 'nobody to hand on'],
  ])('%s is refused with a sentence, chosen %j', async (format, more, why) => {
    const shot = snappingToolbox();
    await expect(handOn(shot, format, all(shot, more))).rejects.toThrow(why);
  });
});

describe('what is remarked before', () => {
  test('of the demo shots is nothing that a receiver would see', () => {
    for (const shot of [goatOnTheWall(), snappingToolbox()])
      expect(remarksOf(shot, all(shot)).filter((r) => r.weight === 'fault')).toEqual([]);
  });

  test('is a loop that does not close, with the joint and how far it is off', () => {
    const shot = snappingToolbox();
    const wake = shot.clips.at('toolbox-wake');
    // It begins asleep and ends awake: over and over it would jump.
    const cycling = { ...shot, clips: shot.clips.with(wake.id, { ...wake, cycles: true }) };
    const remarks = remarksOf(cycling, all(cycling, { clips: [wake.id] }));
    expect(remarks.find((r) => r.about === 'loop')?.text).toMatch(/^The loop of Wake does not close: \w+ is \d+ mm/);
  });

  test('are loose changes, names that go out in another way, clips without keys and sounds', () => {
    const shot = floatOnTheSteps();
    const loose = Table.of({ 'float.move.y': [{ frame: 3, value: 1 }] });
    const named = { ...shot.members.at('float'), name: 'Döbel (rot)' };
    const remarks = remarksOf({ ...shot, loose, members: shot.members.with('float', named) }, all(shot));
    expect(remarks.map((r) => r.about).sort()).toEqual(expect.arrayContaining(['loose', 'name', 'sound']));
    const name = remarks.find((r) => r.about === 'name')!;
    expect(name.text).toBe('“Döbel (rot)” goes out as Dobel_rot');
    // Called as is offered, nothing is left to say of it.
    const mended = shot.members.with('float', { ...named, name: name.plainName! });
    expect(remarksOf({ ...shot, members: mended }, all(shot)).map((r) => r.about)).not.toContain('name');
    const goat = goatOnTheWall();
    const clip = goat.clips.values().find((c) => c.kept !== null)!;
    const empty = { ...goat, clips: goat.clips.with(clip.id, { ...clip, kept: { curves: {}, recipes: {} } }) };
    expect(remarksOf(empty, all(empty, { clips: [clip.id] })).find((r) => r.about === 'empty')?.text).toContain(
      'has no keys',
    );
  });
});
