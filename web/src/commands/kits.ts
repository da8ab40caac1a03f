import { isLocked, kits } from '@varrup/core';
import { startKit } from '../kits/KitsPanel.tsx';
import type { AppCommand } from './command.ts';
import { hasSelection, pickedNow, shotNow, withShot } from './now.ts';

/** Kits for the leading member, one command each. */

const leadUnlocked = () => {
  const shot = shotNow();
  const lead = pickedNow().at(-1);
  return hasSelection() && shot !== null && lead !== undefined && !isLocked(shot, lead);
};

export const kitCommands: AppCommand[] = [
  ...kits.map(
    (kit): AppCommand => ({
      id: `kit.${kit.id}`,
      label: `${kit.name}: ${kit.about.charAt(0).toLowerCase()}${kit.about.slice(1, -1)}…`,
      group: 'Kits',
      run: withShot((shot) => {
        const member = shot.members.get(pickedNow().at(-1) ?? '');
        if (member) startKit(shot, kit, member);
      }),
      enabled: leadUnlocked,
    }),
  ),
];
