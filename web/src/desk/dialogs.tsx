import { type ComponentType, lazy, Suspense } from 'react';
import { Palette } from '../commands/Palette.tsx';
import { useQuestion } from '../view/questions.ts';

const part = <Name extends string>(load: () => Promise<Record<Name, ComponentType>>, name: Name) =>
  lazy(() => load().then((file) => ({ default: file[name] })));

/** The cards that are laid over the desk, by what is asked. A new one is a file in the folder of its subject, and a line here. */
const dialogs = {
  // Whoever asks for it types on at once.
  palette: Palette,
  shortcuts: part(() => import('../commands/ShortcutSheet.tsx'), 'ShortcutSheet'),
  movie: part(() => import('../movie/MovieDialog.tsx'), 'MovieDialog'),
  parent: part(() => import('../cast/ParentDialog.tsx'), 'ParentDialog'),
  copies: part(() => import('../cast/CopiesDialog.tsx'), 'CopiesDialog'),
  break: part(() => import('../cast/BreakDialog.tsx'), 'BreakDialog'),
  'rig-of': part(() => import('../rigging/RigOfDialog.tsx'), 'RigOfDialog'),
  hold: part(() => import('../cast/HoldDialog.tsx'), 'HoldDialog'),
  rate: part(() => import('../timeline/RateDialog.tsx'), 'RateDialog'),
  thin: part(() => import('../timeline/ThinDialog.tsx'), 'ThinDialog'),
  'add-channel': part(() => import('../channels/AddChannelDialog.tsx'), 'AddChannelDialog'),
  set: part(() => import('../channels/SetsPanel.tsx'), 'SetDialog'),
  act: part(() => import('../footage/ActDialog.tsx'), 'ActDialog'),
  'take-in': part(() => import('../take-in/TakeInDialog.tsx'), 'TakeInDialog'),
  rig: part(() => import('../rigs/BringRigDialog.tsx'), 'BringRigDialog'),
  'keep-pose': part(() => import('../poses/KeepPoseDialog.tsx'), 'KeepPoseDialog'),
} as const satisfies Record<string, ComponentType>;

/** The card that is asked for, if one is. */
export function Dialogs() {
  const open = useQuestion((q) => q.open);
  const Card = open !== null && Object.hasOwn(dialogs, open) ? dialogs[open as keyof typeof dialogs] : null;
  return <Suspense fallback={null}>{Card ? <Card /> : null}</Suspense>;
}
