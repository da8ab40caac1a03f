import {
  changePanel,
  documentOf,
  linkPanels,
  type Panel,
  type PanelRun,
  perform,
  Rigs,
  type Shot,
  setRange,
  shotOfPanel,
} from '@varrup/core';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { useShot } from '../shot/shot-store.ts';

/** Panels that become shots of the production, and shots that are as long as their panels. */

/** Makes a shot of each of these panels. They stand in the production at once; the board knows which they are. */
export async function becomeShots(runs: readonly PanelRun[]): Promise<void> {
  const { committed, production } = useShot.getState();
  if (!committed || !production || runs.length === 0) return;
  const made: Record<string, string> = {};
  try {
    for (const run of runs) {
      const shot = shotOfPanel(committed, run);
      made[run.panel.id] = await api.newShot(production.id, shot.name, documentOf(shot));
    }
  } catch (error) {
    toast.error(`Not all panels have become shots. ${(error as Error).message}`);
  }
  if (Object.keys(made).length === 0) return;
  useShot.getState().run(linkPanels, { shots: made });
  toast(
    `${Object.keys(made).length === 1 ? 'A shot has' : `${Object.keys(made).length} shots have`} come into ${production.name}.`,
  );
}

/** What a panel's shot must be told when the panel has got another length; null where it is as long already. */
export function lengthened(shot: Shot, frames: number) {
  const own = shot.plan.from && shot.panels.size === 1 ? shot.panels.values()[0] : undefined;
  const { first, last } = shot.range;
  if (last - first + 1 === frames && (!own || own.frames === frames)) return null;
  if (own && shot.plan.leads) return perform(shot, changePanel, { id: own.id, change: { frames } });
  return perform(shot, setRange, { range: { first, last: first + frames - 1 } });
}

async function lengthen({ shot, frames }: Panel): Promise<void> {
  const { document, revision } = await api.openShot(shot!.id);
  const done = lengthened({ ...document, rigs: Rigs.none }, frames);
  if (!done) return;
  const { inverse: _, ...edit } = done.edit;
  await api.commit(shot!.id, { base: revision, edits: [edit] });
  toast(`${document.name} is ${frames} frames long now, as its panel.`);
}

/** Shots follow a moment after the board has come to rest. */
const REST_MS = 900;

/** Lets shots be as long as their panels for as long as the board is open. @returns what ends it */
export function followPanels(): () => void {
  let wait: ReturnType<typeof setTimeout> | undefined;
  const waiting = new Map<string, Panel>();
  const go = () => {
    for (const panel of waiting.values())
      lengthen(panel).catch((error: Error) =>
        toast.error(`A shot could not be made as long as its panel. ${error.message}`),
      );
    waiting.clear();
  };
  const end = useShot.subscribe(({ committed }, old) => {
    const before = old.committed;
    if (!committed || !before || committed.id !== before.id || committed.panels === before.panels) return;
    before.panels.changesTo(committed.panels, (id, was, panel) => {
      if (panel?.shot?.follows && (was?.frames !== panel.frames || !was.shot?.follows)) waiting.set(id, panel);
    });
    clearTimeout(wait);
    if (waiting.size > 0) wait = setTimeout(go, REST_MS);
  });
  return () => {
    end();
    clearTimeout(wait);
    go();
  };
}
