import { announce } from '../commands/list.ts';
import '../hand-on/commands.ts';
import '../review/commands.ts';
import '../take-in/commands.ts';
import { useShot } from '../shot/shot-store.ts';
import { type Place, usePlaces } from '../view/places.ts';
import { goToDesk } from './going.ts';
import { type PanelId, panels } from './panels.ts';
import { type Desk, deskOf, desks } from './registry.ts';

/** The commands that come with what is registered: every desk can be gone to, every panel shown and made large. */

const hasShot = () => useShot.getState().shot !== null;

/** The desk one is at. */
const here = (): Desk | undefined => deskOf(location.pathname.split('/')[3]);

/** Shows a panel, where it stands on the desk one is at; else on that where one animates, or the first that has it. */
function show(id: PanelId): void {
  const has = (desk: Desk | undefined) =>
    (['beside', 'below'] as const).find((place) => desk?.places?.[place].includes(id));
  const desk = [here(), deskOf(undefined), ...desks].find(has);
  const place = has(desk);
  if (!desk || !place) return;
  if (desk !== here()) goToDesk(desk.id);
  usePlaces.setState(place === 'beside' ? { side: id } : { tab: id });
}

/** The place the focus is in, else the one the pointer was over last; else the one below the stage, which needs height most. */
function placeMeant(): Place {
  const of = (element: Element | null) =>
    element?.closest<HTMLElement>('[data-place]')?.dataset.place as Place | undefined;
  return of(document.activeElement) ?? of(document.querySelector('[data-place]:hover')) ?? 'below';
}

const nextDesk = (by: 1 | -1) => {
  const now = here();
  const at = now ? desks.indexOf(now) : 0;
  goToDesk(desks[(at + by + desks.length) % desks.length].id);
};

announce([
  ...Object.entries(panels).map(([id, { shows, shortcut }]) => ({
    id: `view.${id}`,
    label: `Show ${shows}`,
    group: 'View' as const,
    shortcut,
    run: () => show(id as PanelId),
  })),
  ...desks.map(({ id, word }) => ({
    id: `desk.${id}`,
    label: `Go to the desk ${word}`,
    group: 'View' as const,
    run: () => goToDesk(id),
    enabled: hasShot,
  })),
  {
    id: 'desk.next',
    label: 'Go to the next desk',
    group: 'View',
    shortcut: 'Alt+PageDown',
    run: () => nextDesk(1),
    enabled: hasShot,
  },
  {
    id: 'desk.previous',
    label: 'Go to the desk before',
    group: 'View',
    shortcut: 'Alt+PageUp',
    run: () => nextDesk(-1),
    enabled: hasShot,
  },
  {
    id: 'view.large',
    label: 'Make the panel large, or as it was',
    group: 'View',
    shortcut: 'Shift+L',
    run: () => {
      const { large } = usePlaces.getState();
      usePlaces.setState({ large: large === null ? placeMeant() : null });
    },
    enabled: hasShot,
  },
]);
