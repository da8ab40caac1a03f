import { type PointerEvent, useRef } from 'react';
import { commandOf, shortcutOf } from '../../commands/list.ts';
import { Hint } from '../../ui/Hint.tsx';
import { useLooking } from '../../view/looking.ts';
import { stageRef } from '../../view/stage-ref.ts';

const places = [
  ['front', 'top-1.5 left-1/2 -translate-x-1/2'],
  ['side', 'right-1.5 top-1/2 -translate-y-1/2'],
  ['top', 'bottom-1.5 left-1/2 -translate-x-1/2'],
  ['camera', 'left-1 top-1/2 -translate-y-1/2'],
] as const;

/** Looks from a side with a press, or goes round with a drag of the middle. */
export function ViewWheel() {
  const looking = useLooking((s) => s.looking);
  const flat = useLooking((s) => s.flat);
  const drag = useRef<{ x: number; y: number; moved: boolean } | null>(null);
  const onMove = (event: PointerEvent) => {
    if (!drag.current) return;
    const [dx, dy] = [event.clientX - drag.current.x, event.clientY - drag.current.y];
    drag.current = { x: event.clientX, y: event.clientY, moved: drag.current.moved || Math.abs(dx) + Math.abs(dy) > 2 };
    useLooking.setState({ looking: 'free' });
    stageRef.current?.orbitBy(dx * 0.012, dy * 0.012);
  };
  return (
    <div className="absolute right-3 bottom-3 size-[98px] rounded-full border border-rule bg-card/90 text-xs shadow-sm">
      {places.map(([name, place]) => (
        <Hint key={name} text={commandOf(`view.${name}`).label} keys={shortcutOf(`view.${name}`)} side="top">
          <button
            type="button"
            aria-pressed={looking === name}
            aria-label={commandOf(`view.${name}`).label}
            onClick={() => commandOf(`view.${name}`).run()}
            className={`absolute ${place} rounded px-1 text-graphite hover:text-ink aria-pressed:font-semibold aria-pressed:text-blue`}
          >
            {name === 'camera' ? 'cam' : name}
          </button>
        </Hint>
      ))}
      <Hint
        text={
          flat
            ? 'Without perspective. Drag to go round, press for perspective'
            : 'Drag to go round, press to see without perspective'
        }
        keys={shortcutOf('view.flat')}
        side="top"
      >
        <button
          type="button"
          aria-label="With or without perspective; drag to go round"
          aria-pressed={flat}
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            drag.current = { x: event.clientX, y: event.clientY, moved: false };
          }}
          onPointerMove={onMove}
          onPointerUp={() => {
            const pressed = drag.current && !drag.current.moved;
            drag.current = null;
            if (pressed) commandOf('view.flat').run();
          }}
          onKeyDown={(event) => event.key === 'Enter' && commandOf('view.flat').run()}
          className={`absolute top-1/2 left-1/2 size-5 -translate-x-1/2 -translate-y-1/2 touch-none border-2 border-blue ${flat ? 'rounded-md bg-card' : 'rounded-full bg-blue'}`}
        />
      </Hint>
    </div>
  );
}
