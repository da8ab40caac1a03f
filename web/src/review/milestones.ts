import { api } from '../api/client.ts';
import { useShot } from '../shot/shot-store.ts';

/** Versions that are kept by themselves: before something is brought back, when a suggestion is taken, when work is handed on. */

/** As many kept by themselves lie side by side before no more are. */
const MOST_BY_THEMSELVES = 120;

/** Keeps the shot as it is under a name. Where it cannot be, as much as one would miss it, work goes on. */
export async function keepMilestone(name: string): Promise<void> {
  const { shot, saving, fixing } = useShot.getState();
  if (!shot || fixing || saving.kind !== 'saved') return;
  const kept = await api.versions(shot.id).catch(() => []);
  if (kept.length >= MOST_BY_THEMSELVES || kept[0]?.revision === useShot.getState().revision()) return;
  await api.keepVersion(shot.id, name.slice(0, 80)).catch(() => undefined);
}
