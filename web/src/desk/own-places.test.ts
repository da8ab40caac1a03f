import { expect, test, vi } from 'vitest';
import { shownOn } from './own-places.ts';
import { deskOf } from './registry.ts';

// What paints the page is not there.
vi.mock('../ui/theme.ts', () => ({ themeNow: () => 'light' }));

const [cast, animate] = [deskOf('cast')!, deskOf('animate')!];

test('a desk begins with its first panels, and comes back with those it was left with', () => {
  const now = { side: 'channels', tab: 'sheet' };
  expect(shownOn(cast, animate, now, undefined)).toEqual({ side: 'material', tab: 'sheet' });
  expect(shownOn(cast, animate, now, { side: 'light', tab: 'curves' })).toEqual({ side: 'light', tab: 'curves' });
});

test('a panel that was asked for from elsewhere is shown', () => {
  const asked = { side: 'poses', tab: 'sheet' };
  expect(shownOn(animate, cast, asked, { side: 'kits', tab: 'bounces' })).toEqual({ side: 'poses', tab: 'bounces' });
});
