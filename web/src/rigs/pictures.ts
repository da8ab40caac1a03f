import { useQuery } from '@tanstack/react-query';
import {
  bringRig,
  changeChannels,
  emptyShot,
  newRigMembers,
  type PoseValues,
  posed,
  type RigLink,
  Rigs,
  rigHash,
  type Shot,
} from '@varrup/core';
import { useState } from 'react';
import { kept } from '../pictures/kept.ts';
import { picture } from '../pictures/pictures.ts';
import { fetchRig } from '../shot/linked.ts';
import { themeNow, useThemeChange } from '../ui/theme.ts';
import { useHabits } from '../view/habits.ts';

const SIZE = { width: 176, height: 176 } as const;

/** A rig alone on its floor, in a pose or at rest. */
function alone(rigs: Rigs, { rig, version }: RigLink, pose: PoseValues | null): Shot {
  const shot = emptyShot('picture', 'Picture', rigs);
  const brought = bringRig.apply(shot, newRigMembers(shot, { rig, version, id: 'rig' }));
  // What hangs, or is held by its middle, is lifted off the floor.
  const below = Math.min(0, rigs.at({ rig, version }).bounds[1]);
  const there = changeChannels.apply(brought, { frame: 1, values: { 'rig.move.y': -below }, autoKey: 'off' });
  if (!pose) return there;
  const values = posed(there, { rig: 'rig', pose, frame: 1, share: 1 });
  return changeChannels.apply(there, { frame: 1, values, autoKey: 'off' });
}

/** The address of a picture of a rig, or of one of its poses; undefined while it is being drawn. */
export function useRigPicture(link: RigLink | null, pose: { id: string; values: PoseValues } | null = null) {
  const sketch = useHabits((h) => h.sketch);
  const [theme, setTheme] = useState(themeNow());
  useThemeChange(() => setTheme(themeNow()));
  return useQuery({
    queryKey: ['rig picture', link?.rig, link?.version, pose?.id ?? 'rest', theme],
    enabled: link !== null && !sketch,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      if (!link) return null;
      const rig = await fetchRig(link);
      const make = () => picture(alone(Rigs.of([rig]), link, pose?.values ?? null), 1, { ...SIZE, theme });
      return URL.createObjectURL(await kept([rigHash(rig), pose?.values ?? 'rest', SIZE, theme], make));
    },
  });
}
