import { type CameraRun, cameraRuns, camerasOf, moveCut, removeCuts, type Shot } from '@varrup/core';
import type { KeyboardEvent } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { select } from '../view/selection.ts';
import { cutTo } from './cuts.ts';
import { useFrameDrag } from './use-frame-drag.ts';
import { useTimeScale } from './use-time-scale.ts';

/** Which camera sees which frames, over the sheet, where a shot has several: cuts are made, drawn and taken away there. */
export function CameraRow({ shot }: { shot: Shot }) {
  const { setBox, x, span, width, perFrame } = useTimeScale();
  const cameras = camerasOf(shot);
  if (cameras.length < 2) return null;
  const tint = new Map(cameras.map((camera, i) => [camera.id, TINTS[i % TINTS.length]]));
  return (
    <section aria-label="Cameras" className="flex h-7 shrink-0 border-b border-rule bg-card">
      <span className="flex w-64 shrink-0 items-center gap-2 border-r border-rule px-3 text-graphite">
        <span className="grow">cameras</span>
        <select
          aria-label="Cut here to"
          title="Cut to a camera at the current frame"
          value=""
          onChange={(event) => cutTo(event.target.value)}
          className="h-5 rounded-md border border-rule bg-paper px-1 text-sm text-ink"
        >
          <option value="" disabled>
            cut here to…
          </option>
          {cameras.map((camera) => (
            <option key={camera.id} value={camera.id}>
              {camera.name}
            </option>
          ))}
        </select>
      </span>
      <div ref={setBox} className="relative min-w-0 grow overflow-hidden">
        {cameraRuns(shot).map((run) => {
          const left = Math.max(-4, x(Math.max(run.first, span.first) - 0.5));
          const right = Math.min(width + 4, x(Math.min(run.last, span.last) + 0.5));
          return (
            <Run
              key={run.cut ?? 'first'}
              shot={shot}
              run={run}
              left={left}
              wide={Math.max(0, right - left)}
              perFrame={perFrame}
              tint={tint.get(run.camera) ?? TINTS[0]}
            />
          );
        })}
      </div>
    </section>
  );
}

const TINTS = [
  'border-blue bg-blue-wash',
  'border-ochre bg-ochre-wash',
  'border-moss bg-moss-wash',
  'border-umber bg-umber/15',
] as const;

interface RunProps {
  readonly shot: Shot;
  readonly run: CameraRun;
  readonly left: number;
  readonly wide: number;
  readonly perFrame: number;
  readonly tint: string;
}

function Run({ shot, run, left, wide, perFrame, tint }: RunProps) {
  const name = shot.members.get(run.camera)?.name ?? '';
  const preview = usePreview('cut');
  const { cut } = run;
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by && cut) useShot.getState().run(moveCut, { id: cut, frame: run.first + by });
    else if (event.key === 'Delete' && cut) useShot.getState().run(removeCuts, { ids: [cut] });
    else if (event.key === 'Enter') select([run.camera]);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const hands = useFrameDrag({
    from: run.first,
    perFrame,
    onDrag: (frame) => cut && preview.show(moveCut, { id: cut, frame }),
    onKeep: () => preview.keep(),
    onDrop: () => preview.drop(),
    onPress: () => select([run.camera]),
  });
  const about = cut
    ? `${name} from frame ${run.first} on. Arrows move the cut, Delete takes it away, Enter picks the camera.`
    : `${name}, until the first cut. Enter picks it.`;
  return (
    <button
      type="button"
      aria-label={about}
      title={about}
      data-takes="ArrowLeft ArrowRight Delete Enter"
      className={`absolute top-1 h-5 touch-none overflow-hidden border-l-2 px-1.5 text-left text-sm leading-5 outline-none focus-visible:ring-2 focus-visible:ring-blue ${tint} ${cut ? 'cursor-ew-resize' : ''}`}
      style={{ left, width: wide }}
      onKeyDown={onKeyDown}
      {...hands}
    >
      <span className="truncate">{name}</span>
    </button>
  );
}
