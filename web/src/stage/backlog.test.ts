import { expect, test } from 'vitest';
import { Backlog } from './backlog.ts';

/** A graphics card that is through when it is told to be. */
function card() {
  const told = { through: false, open: 0 };
  const gl = {
    SYNC_GPU_COMMANDS_COMPLETE: 1,
    SYNC_STATUS: 2,
    SIGNALED: 3,
    fenceSync: () => {
      told.open++;
      told.through = false;
      return {};
    },
    deleteSync: () => void told.open--,
    flush: () => {},
    getSyncParameter: () => (told.through ? 3 : 4),
  } as unknown as WebGL2RenderingContext;
  return { told, backlog: new Backlog(gl) };
}

test('a drawing is at work until the card is through with it, and keeps nothing of it', () => {
  const { told, backlog } = card();
  expect(backlog.isAtWork(0)).toBe(false);
  backlog.note(0);
  expect(backlog.isAtWork(10)).toBe(true);
  backlog.note(20);
  expect(told.open).toBe(1);
  told.through = true;
  expect(backlog.isAtWork(30)).toBe(false);
  expect(told.open).toBe(0);
});

test('a card that never says it is through holds nothing up for good', () => {
  const { backlog } = card();
  backlog.note(0);
  expect(backlog.isAtWork(1_900)).toBe(true);
  expect(backlog.isAtWork(2_100)).toBe(false);
});
