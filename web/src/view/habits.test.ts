import { expect, test, vi } from 'vitest';

test('a shortcut that was changed stays with its command when that gets another name', async () => {
  const own = { 'kit.show': 'j', 'key.all': 'Shift+J' };
  localStorage.setItem('varrup-habits', JSON.stringify({ state: { shortcuts: own, theme: 'night' }, version: 0 }));
  vi.resetModules();
  const { useHabits } = await import('./habits.ts');
  expect(useHabits.getState().shortcuts).toEqual({ 'view.kits': 'j', 'key.all': 'Shift+J' });
  expect(useHabits.getState().theme).toBe('night');
});

test('of many shots those folded last stay folded, and what is unfolded is forgotten', async () => {
  const { foldRows, useHabits } = await import('./habits.ts');
  for (let i = 0; i < 60; i++) foldRows(`shot${i}`, ['porter']);
  expect(Object.keys(useHabits.getState().folded)).toHaveLength(40);
  expect(useHabits.getState().folded.shot59).toEqual(['porter']);
  foldRows('shot59', []);
  expect(useHabits.getState().folded.shot59).toBeUndefined();
});
