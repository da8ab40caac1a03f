import { type Marker, putMarker, removeMarkers, type Shot } from '@varrup/core';
import { Flag } from 'lucide-react';
import type { KeyboardEvent } from 'react';
import { markersOf } from '../board/markers.ts';
import { useShot } from '../shot/shot-store.ts';
import { usePreview } from '../shot/use-preview.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useFrameDrag } from './use-frame-drag.ts';
import { useTimeScale } from './use-time-scale.ts';

/** The lines of the breakdown list as markers over the sheet: dragged, gone to and taken away there. */
export function MarkRow({ shot }: { shot: Shot }) {
  const { setBox, x, perFrame, width } = useTimeScale();
  if (shot.markers.size === 0) return null;
  const markers = markersOf(shot);
  return (
    <section aria-label="Markers" className="flex h-6 shrink-0 border-b border-rule bg-card">
      <span className="w-64 shrink-0 border-r border-rule px-3 text-graphite">
        markers <span className="tabular">{markers.length}</span>
      </span>
      <div ref={setBox} className="relative min-w-0 grow overflow-hidden">
        {markers.map((marker, i) => {
          const left = x(marker.frame);
          const next = markers[i + 1] ? x(markers[i + 1].frame) : width;
          if (next < -20 || left > width) return null;
          return <One key={marker.id} marker={marker} left={left} wide={next - left} perFrame={perFrame} />;
        })}
      </div>
    </section>
  );
}

function One({ marker, left, wide, perFrame }: { marker: Marker; left: number; wide: number; perFrame: number }) {
  const preview = usePreview('marker');
  const fixed = marker.panel !== null;
  const move = (frame: number) => useShot.getState().run(putMarker, { marker: { ...marker, frame } });
  const onKeyDown = (event: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by && !fixed) move(marker.frame + by);
    else if (event.key === 'Delete') useShot.getState().run(removeMarkers, { ids: [marker.id] });
    else if (event.key === 'Enter') usePlayhead.getState().go(marker.frame);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const hands = useFrameDrag({
    from: marker.frame,
    perFrame,
    onDrag: (frame) => fixed || preview.show(putMarker, { marker: { ...marker, frame: Math.round(frame) } }),
    onKeep: () => fixed || preview.keep(),
    onDrop: () => preview.drop(),
    onPress: () => usePlayhead.getState().go(marker.frame),
  });
  const words = marker.name || marker.what || 'marker';
  const more = [marker.what, marker.sound && `sound: ${marker.sound}`, marker.effort && `effort: ${marker.effort}`];
  const about = `${words} at ${marker.frame}. ${fixed ? 'It goes where its panel goes.' : 'Arrows move it.'} Enter goes there, Delete takes it away.`;
  return (
    <button
      type="button"
      aria-label={about}
      title={[words, ...more.filter((part) => part && part !== words)].join('\n')}
      data-takes="ArrowLeft ArrowRight Delete Enter"
      className="absolute top-0 flex h-6 touch-none items-center gap-1 overflow-hidden border-l-2 border-ink pl-1 text-left text-sm whitespace-nowrap outline-none hover:bg-well focus-visible:bg-blue-wash"
      style={{ left, width: Math.max(10, wide - 2) }}
      onKeyDown={onKeyDown}
      {...hands}
    >
      <Flag size={11} className="shrink-0 text-graphite" aria-hidden />
      <span className="truncate">{words}</span>
    </button>
  );
}
