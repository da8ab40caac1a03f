import { useVirtualizer } from '@tanstack/react-virtual';
import { type Marker, putMarker, removeMarkers, type Shot } from '@varrup/core';
import { Plus, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Words } from '../ui/Words.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { markersOf } from './markers.ts';

const ROW = 34;

const parts = [
  ['name', 'name', 80, 'w-32'],
  ['what', 'what happens', 1_000, 'grow'],
  ['sound', 'sound', 300, 'w-44'],
  ['effort', 'effort', 300, 'w-44'],
] as const;

/** The breakdown list: frame, what happens, sound, effort. Its lines stand as markers over the sheet. */
export function BreakdownPanel({ shot }: { shot: Shot }) {
  const rows = markersOf(shot);
  const scroll = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => ROW,
    overscan: 8,
  });
  return (
    <div ref={scroll} className="h-full overflow-y-auto">
      <table aria-label="Breakdown list" className="block w-full text-left">
        <thead className="sticky top-0 z-10 block bg-card">
          <tr className="flex items-center gap-2 border-b border-rule px-3 py-1 text-sm text-graphite">
            <th scope="col" className="w-24 font-normal">
              frame
            </th>
            {parts.map(([part, word, , wide]) => (
              <th key={part} scope="col" className={`${wide} font-normal`}>
                {word}
              </th>
            ))}
            <th scope="col" className="flex w-20 justify-end font-normal">
              <Hint text={commandOf('marker.put').label} keys={shortcutOf('marker.put')}>
                <Button look="pill" className="h-6! px-2! text-ink" onClick={() => commandOf('marker.put').run()}>
                  <span className="flex items-center gap-1">
                    <Plus size={13} /> mark
                  </span>
                </Button>
              </Hint>
            </th>
          </tr>
        </thead>
        <tbody className="relative block" style={{ height: virtual.getTotalSize() }}>
          {virtual.getVirtualItems().map((item) => (
            <tr
              key={rows[item.index].id}
              className="absolute inset-x-0 flex items-center gap-2 border-b border-rule/50 px-3"
              style={{ top: item.start, height: ROW }}
            >
              <Line marker={rows[item.index]} rate={shot.rate} />
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length === 0 ? (
        <p className="p-4 text-graphite">
          Nothing is marked yet. <b className="font-semibold text-ink">Mark</b> a frame, and write what happens on it:
          the lines stand over the sheet. Panels of the board can be marked as well.
        </p>
      ) : null}
    </div>
  );
}

function Line({ marker, rate }: { marker: Marker; rate: number }) {
  const run = useShot((s) => s.run);
  const here = usePlayhead((p) => p.settled === marker.frame);
  const put = (change: Partial<Marker>) => run(putMarker, { marker: { ...marker, ...change } });
  return (
    <>
      <td className="flex w-24 shrink-0 items-center gap-1">
        {marker.panel === null ? (
          <NumberField
            label="Frame of the marker"
            value={marker.frame}
            step={1}
            digits={0}
            whole
            min={-200_000}
            max={200_000}
            onChange={(frame) => put({ frame })}
          />
        ) : (
          <span className="tabular w-full pl-2" title="It stands where its panel begins, and goes where that goes">
            {marker.frame} ▪
          </span>
        )}
        <Button
          look="icon"
          className={`size-6! ${here ? 'text-vermilion' : 'text-graphite'}`}
          aria-label={`Go to frame ${marker.frame}, ${((marker.frame - 1) / rate).toFixed(2)} s`}
          title={`${((marker.frame - 1) / rate).toFixed(2)} s: go there`}
          onClick={() => usePlayhead.getState().go(marker.frame)}
        >
          ▾
        </Button>
      </td>
      {parts.map(([part, word, most, wide]) => (
        <td key={part} className={`${wide} min-w-0`}>
          <Words
            label={`${word}, frame ${marker.frame}`}
            value={marker[part]}
            most={most}
            className="h-7 overflow-hidden border-transparent! bg-transparent! hover:border-rule!"
            onChange={(text) => put({ [part]: text })}
          />
        </td>
      ))}
      <td className="flex w-20 justify-end">
        <Button
          look="icon"
          aria-label={`Take the marker at ${marker.frame} away`}
          onClick={() => run(removeMarkers, { ids: [marker.id] })}
        >
          <Trash2 size={14} />
        </Button>
      </td>
    </>
  );
}
