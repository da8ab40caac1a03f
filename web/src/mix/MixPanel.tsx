import { type Clip, clipAtWork, clipsOf, layByClip, newTrack, putTrack, type Shot } from '@varrup/core';
import { useEffect, useRef } from 'react';
import { controlsPicked, layTracksDown, liftClipOut } from '../commands/mixing.ts';
import { rigMeant } from '../commands/rig-meant.ts';
import { useShot } from '../shot/shot-store.ts';
import { scrubTo, zoomOrPan } from '../timeline/pointer.ts';
import { ruling, timeScale } from '../timeline/time-axis.ts';
import { useWheel } from '../timeline/use-wheel.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { useSize } from '../ui/use-size.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useSelection } from '../view/selection.ts';
import { useTiming } from '../view/timing.ts';
import { layClip, layOver, spanOf, tracksShown, useMix } from './mix.ts';
import { OwnKeys } from './OwnKeys.tsx';
import { TrackRow } from './TrackRow.tsx';

/** Clips of a rig on tracks: one after another, over one another, each from when to when and how it comes and goes. */
export function MixPanel({ shot }: { shot: Shot }) {
  const selection = useSelection((s) => s.picked);
  const rig = rigMeant(shot, selection);
  if (!rig) return <Says>Tracks belong to rigs: pick one, and lay its clips one after another.</Says>;
  const clips = clipsOf(shot, rig);
  const tracks = tracksShown(shot, rig);
  if (clips.length === 0)
    return <Says>{shot.members.at(rig).name} has no clips yet. Make one beside the stage, under clips.</Says>;
  return (
    <section aria-label="Mix" className="flex h-full flex-col bg-card">
      <div className="flex min-h-9 shrink-0 flex-wrap items-center gap-1.5 border-b border-rule px-3 py-1">
        <LaySelect shot={shot} rig={rig} clips={clips} />
        <Hint text="An empty track over the others">
          <Button
            look="pill"
            onClick={() => useShot.getState().run(putTrack, { track: newTrack(shot, rig), does: 'add a track' })}
          >
            new track
          </Button>
        </Hint>
        <Hint text="Turns what the tracks give into plain keys, as few as half a millimetre and a tenth of a degree allow; the tracks stay, silent. Of picked controls only where some are picked">
          <Button
            look="pill"
            disabled={tracks.length === 0 || clipAtWork(shot, rig) !== null}
            onClick={() => layTracksDown(rig)}
          >
            {controlsPicked(shot, rig, selection).length > 0 ? 'lay down what is picked' : 'lay down as keys'}
          </Button>
        </Hint>
        <Hint text="Makes a clip, laid by, of the rig’s own keys along the frames that play; the keys stay">
          <Button look="pill" onClick={() => liftClipOut(rig)}>
            lift out a clip
          </Button>
        </Hint>
        <AtWork shot={shot} rig={rig} />
      </div>
      {tracks.length === 0 ? (
        <Says>
          Lay a clip here: it plays from the frame of now on, and the next one goes over from it where they overlap.
        </Says>
      ) : (
        <Tracks shot={shot} rig={rig} />
      )}
    </section>
  );
}

const Says = ({ children }: { children: React.ReactNode }) => (
  <p className="grid min-h-0 grow place-items-center px-6 text-center text-graphite">{children}</p>
);

/** Lays a clip from the frame of now on: on the track of the picked span, or over all of them. */
function LaySelect({ shot, rig, clips }: { shot: Shot; rig: string; clips: readonly Clip[] }) {
  const picked = useMix((m) => m.span);
  const onto = spanOf(shot, picked)?.track ?? tracksShown(shot, rig).at(-1) ?? null;
  const choose = (how: (clip: Clip) => void) => (event: React.ChangeEvent<HTMLSelectElement>) => {
    const clip = shot.clips.get(event.target.value);
    if (clip) how(clip);
  };
  const options = clips.map((clip) => (
    <option key={clip.id} value={clip.id}>
      {clip.name}
    </option>
  ));
  const look = 'h-7 rounded-full border border-rule bg-card px-2 text-ink';
  return (
    <>
      <select
        aria-label="Lay a clip here"
        title="Lays a clip from the frame of now on, or behind what is there"
        value=""
        onChange={choose((clip) => layClip(shot, clip, onto?.rig === rig && !onto.locked ? onto : null))}
        className={look}
      >
        <option value="" disabled>
          lay a clip here…
        </option>
        {options}
      </select>
      <select
        aria-label="Lay a clip over the rest"
        title="Lays a clip on a track of its own, over the others: it comes and goes within half a second"
        value=""
        onChange={choose((clip) => layOver(shot, clip))}
        className={look}
      >
        <option value="" disabled>
          over the rest…
        </option>
        {options}
      </select>
    </>
  );
}

/** What is silent now, and why. */
function AtWork({ shot, rig }: { shot: Shot; rig: string }) {
  const clip = clipAtWork(shot, rig);
  if (!clip || shot.tracks.size === 0) return null;
  return (
    <span role="status" className="ml-auto flex items-center gap-2 text-graphite">
      {clip.name} is at work: its keys are on the sheet, and the tracks are silent.
      <Button look="pill" onClick={() => useShot.getState().run(layByClip, { id: clip.id })}>
        lay it by
      </Button>
    </span>
  );
}

function Tracks({ shot, rig }: { shot: Shot; rig: string }) {
  const span = useTiming((s) => s.span);
  const box = useRef<HTMLDivElement>(null);
  const line = useRef<HTMLDivElement>(null);
  const width = useSize(box)?.width ?? 600;
  useWheel(box, (event) => zoomOrPan(event, box.current!));
  const x = timeScale(span, width);
  useEffect(() => {
    const scale = timeScale(span, width);
    const place = () => {
      if (line.current) line.current.style.transform = `translateX(${scale(usePlayhead.getState().frame)}px)`;
    };
    place();
    return usePlayhead.subscribe(place);
  }, [span, width]);
  const scrub = (event: React.PointerEvent) => {
    const left = box.current!.getBoundingClientRect().left;
    scrubTo(x.invert(event.clientX - left), shot);
  };
  return (
    <div className="relative min-h-0 grow overflow-y-auto overflow-x-hidden">
      <div className="flex h-6 border-b border-rule">
        <span className="w-64 shrink-0 border-r border-rule px-3 leading-6 text-graphite">tracks</span>
        <div
          ref={box}
          className="relative min-w-0 grow cursor-ew-resize touch-none overflow-hidden"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            scrub(event);
          }}
          onPointerMove={(event) => event.buttons === 1 && scrub(event)}
        >
          {ruling(span, width, shot.rate).frames.map((f) => (
            <span
              key={f}
              className="tabular absolute -translate-x-1/2 text-xs leading-6 text-graphite"
              style={{ left: x(f) }}
            >
              {f}
            </span>
          ))}
        </div>
      </div>
      <OwnKeys shot={shot} rig={rig} x={x} />
      {tracksShown(shot, rig).map((track) => (
        <TrackRow key={track.id} shot={shot} track={track} x={x} />
      ))}
      <div aria-hidden className="pointer-events-none absolute inset-y-0 left-64 right-0 overflow-hidden">
        <div ref={line} className="absolute inset-y-0 left-0 w-px bg-vermilion" />
      </div>
    </div>
  );
}
