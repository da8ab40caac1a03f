import {
  type Angles,
  anglesToQuaternion,
  channelPath,
  channelState,
  type Member,
  ORIENTATION,
  type Quaternion,
  quaternionToAngles,
  type Shot,
} from '@varrup/core';
import type { Preview } from '../shot/previews.ts';
import { usePreview } from '../shot/use-preview.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { live } from '../view/live.ts';
import { usePlayhead } from '../view/playhead.ts';
import { changeAll, KeyGlyph } from './ChannelRow.tsx';

const DEGREES = 180 / Math.PI;

/** An orientation, read and set as three angles; it is kept and keyed as one. */
export function OrientationFields({ shot, member, disabled }: { shot: Shot; member: Member; disabled: boolean }) {
  const frame = usePlayhead((p) => p.settled);
  const now = live.now;
  const slot = now?.layout.slotOf.get(member.id);
  const q =
    now && slot !== undefined
      ? ([0, 1, 2, 3].map((c) => now.orientations[slot * 4 + c]) as unknown as Quaternion)
      : member.orientation;
  const angles = quaternionToAngles(q, member.order);
  const path = channelPath(member.id, ORIENTATION);
  const state = channelState(shot, path, frame);
  const preview = usePreview('orientation');
  const set = (axis: number, degrees: number, act: Preview['show']) => {
    const next = angles.with(axis, degrees / DEGREES) as Angles;
    changeAll(member.id, ORIENTATION, anglesToQuaternion(next, member.order), act);
  };
  return ['x', 'y', 'z'].map((label, axis) => (
    <div
      key={label}
      className={`grid grid-cols-[4.2rem_1.6rem_1fr_1.5rem] items-center gap-x-1 ${axis === 0 ? 'mt-1.5' : 'mt-0.5'}`}
    >
      <span className="truncate text-graphite">{axis === 0 ? 'orientation' : ''}</span>
      <span className="text-center font-medium text-graphite">{label}</span>
      <NumberField
        label={`orientation ${label}`}
        value={angles[axis] * DEGREES}
        unit="°"
        step={1}
        digits={1}
        min={-360_000}
        max={360_000}
        disabled={disabled}
        tone={state === 'loose' ? 'loose' : 'plain'}
        onChange={(v) => set(axis, v, preview.make)}
        onPreview={(v) => set(axis, v, preview.show)}
        onCancel={preview.drop}
      />
      {axis === 0 ? <KeyGlyph paths={[path]} state={state} name="orientation" disabled={disabled} /> : <span />}
    </div>
  ));
}
