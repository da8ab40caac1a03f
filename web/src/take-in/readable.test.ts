import { describe, expect, test } from 'vitest';
import { runOf } from './readable.ts';

const files = (...names: string[]) => names.map((name) => ({ name }));
const names = (run: ReturnType<typeof runOf>) => run?.files.map((f) => f.name);

describe('numbered pictures', () => {
  test('are a run in the order of their numbers, however they are given and however many digits they have', () => {
    const run = runOf(files('walk_10.png', 'walk_9.png', 'walk_0011.PNG'));
    expect(names(run)).toEqual(['walk_9.png', 'walk_10.png', 'walk_0011.PNG']);
    expect(run?.name).toBe('walk');
    expect(runOf(files('0002.jpg', '0001.jpg'))?.name).toBe('File');
  });

  test.each([
    ['one alone', ['walk_1.png']],
    ['two that are called otherwise', ['walk_1.png', 'run_2.png']],
    ['pictures of two kinds', ['walk_1.png', 'walk_2.jpg']],
    ['one without a number', ['walk_1.png', 'walk.png']],
    ['two with one number', ['walk_1.png', 'walk_01.png']],
    ['other files', ['take_1.wav', 'take_2.wav']],
  ])('are none where there is %s', (_, given) => {
    expect(runOf(files(...given))).toBeNull();
  });
});
