import { type Member, type RotationOrder, rotationOrders, setRotation } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';

/** Whether a member turns by three angles, and in which order, or by one orientation. */
export function TurnsBy({ member, disabled }: { member: Member; disabled: boolean }) {
  const run = useShot((s) => s.run);
  const value = member.rotation === 'orientation' ? 'orientation' : member.order;
  return (
    <label className="mt-3 flex items-center gap-2 border-t border-rule pt-3 text-graphite">
      turns by
      <select
        value={value}
        disabled={disabled}
        onChange={(event) => {
          const chosen = event.target.value;
          if (chosen === 'orientation')
            run(setRotation, { id: member.id, rotation: 'orientation', order: member.order });
          else run(setRotation, { id: member.id, rotation: 'angles', order: chosen as RotationOrder });
        }}
        className="h-6 grow rounded-md border border-rule bg-paper text-sm text-ink"
      >
        {rotationOrders.map((order) => (
          <option key={order} value={order}>
            angles: {order[0]} first, then {order[1]}, {order[2]}
          </option>
        ))}
        <option value="orientation">one orientation, the shortest way</option>
      </select>
    </label>
  );
}
