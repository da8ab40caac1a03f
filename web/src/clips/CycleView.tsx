import { type Clip, clipAtWork, clipsOf, type Shot } from '@varrup/core';
import { scaleLinear } from 'd3';
import { useEffect, useRef } from 'react';
import { rigMeant } from '../commands/rig-meant.ts';
import { useShot } from '../shot/shot-store.ts';
import { useSize } from '../ui/use-size.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { type Across, LEFT } from './across.ts';
import { GaitChart } from './GaitChart.tsx';
import { StudyGraph } from './StudyGraph.tsx';

/** Room for the last number on the right, in pixels. */
const RIGHT = 24;

/** One round of the cycle at work: which foot is down when, and how a point of the body goes. */
export function CycleView() {
  const shot = useShot((s) => s.shot);
  const selection = useSelection((s) => s.picked);
  const rig = shot && rigMeant(shot, selection);
  const clip = rig ? clipAtWork(shot, rig) : null;
  if (!shot) return null;
  if (!clip)
    return (
      <p className="grid h-full place-items-center px-6 text-center text-graphite">
        {rig
          ? `${shot.members.at(rig).name} has no clip ${clipsOf(shot, rig).length > 0 ? 'at work. Take one up' : 'yet. Make one'} beside the stage, under clips.`
          : 'Pick a rig to see its cycle: which foot is down when, and how hips and head go.'}
      </p>
    );
  return <OneCycle shot={shot} clip={clip} />;
}

function OneCycle({ shot, clip }: { shot: Shot; clip: Clip }) {
  const box = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLDivElement>(null);
  const width = useSize(box)?.width ?? 800;
  const across: Across = scaleLinear([0, clip.length], [LEFT, Math.max(LEFT + 50, width - RIGHT)]);
  // The line of now is moved directly: the view is not made anew for every frame that plays.
  useEffect(() => {
    const place = () => {
      const { length, first, cycles } = clip;
      const gone = usePlayhead.getState().frame - first;
      const phase = cycles ? ((gone % length) + length) % length : gone;
      const inside = phase >= 0 && phase <= length;
      const at = scaleLinear([0, length], [LEFT, Math.max(LEFT + 50, width - RIGHT)])(phase);
      if (!line.current) return;
      line.current.style.transform = `translateX(${at}px)`;
      line.current.style.visibility = inside ? 'visible' : 'hidden';
    };
    place();
    return usePlayhead.subscribe(place);
  }, [clip, width]);
  return (
    <div ref={box} className="relative flex h-full flex-col overflow-hidden bg-card">
      <GaitChart shot={shot} clip={clip} width={width} across={across} />
      <StudyGraph shot={shot} clip={clip} width={width} across={across} />
      <div ref={line} aria-hidden className="pointer-events-none absolute top-0 bottom-0 left-0 w-px bg-vermilion" />
    </div>
  );
}
