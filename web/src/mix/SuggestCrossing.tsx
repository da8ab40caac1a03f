import { type ClipSpan, type ClipTrack, mostTried, putTrack, type Shot, type TriedCrossing } from '@varrup/core';
import { useEffect, useState } from 'react';
import { leaveCrossings, tryCrossings } from '../checks/findings.ts';
import { run } from '../commands/now.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';

type Trying =
  | { readonly is: 'not' }
  | { readonly is: 'trying'; readonly tried: number }
  | { readonly is: 'found'; readonly crossing: TriedCrossing; readonly of: ClipTrack }
  | { readonly is: 'none'; readonly why: string };

/** How long and from where on to go over from the span before, found by trying: with what it does to the feet, in numbers. */
export function SuggestCrossing({ shot, track, span }: { shot: Shot; track: ClipTrack; span: ClipSpan }) {
  const [trying, setTrying] = useState<Trying>({ is: 'not' });
  // Who goes to another span is not told of this one's.
  useEffect(() => () => leaveCrossings(), []);
  const isFirst = track.spans[0]?.id === span.id;
  const seek = async () => {
    setTrying({ is: 'trying', tried: 0 });
    try {
      const into = { track: track.id, span: span.id };
      const crossing = await tryCrossings(shot, into, (tried) =>
        setTrying((now) => (now.is === 'trying' ? { is: 'trying', tried } : now)),
      );
      setTrying((now) => {
        if (now.is !== 'trying') return now;
        return crossing
          ? { is: 'found', crossing, of: track }
          : { is: 'none', why: 'There is no room for a crossing: let the two spans be longer.' };
      });
    } catch (error) {
      setTrying({ is: 'none', why: (error as Error).message });
    }
  };
  if (trying.is === 'trying')
    return (
      <div role="status" className="flex items-center gap-2 text-sm">
        <progress aria-label="Crossings tried" className="h-1.5 grow" max={mostTried()} value={trying.tried} />
        <span className="tabular text-graphite">{trying.tried} tried</span>
        <Button
          onClick={() => {
            leaveCrossings();
            setTrying({ is: 'not' });
          }}
        >
          leave it
        </Button>
      </div>
    );
  const found = trying.is === 'found' && trying.of === track ? trying.crossing : null;
  return (
    <div className="text-sm">
      <Hint
        text="Tries lengths and places for going over from the span before it, and takes the one that is kindest to the feet"
        side="left"
      >
        <Button look="pill" disabled={isFirst || track.locked} onClick={() => void seek()}>
          suggest a crossing
        </Button>
      </Hint>
      {found ? (
        <p role="status" className="mt-1">
          {found.over} frames from {found.from}: feet slide {found.slide.toFixed(2)} mm a frame at most, legs reach{' '}
          {(found.reach * 100).toFixed(1)} %.{' '}
          {isThere(found, track) ? (
            'It is there already.'
          ) : (
            <Button
              look="pill"
              className="h-6! px-2!"
              onClick={() => run(putTrack, { track: found.track, does: 'take the suggested crossing' })}
            >
              take it
            </Button>
          )}
        </p>
      ) : null}
      {trying.is === 'none' ? (
        <p role="status" className="mt-1 text-graphite">
          {trying.why}
        </p>
      ) : null}
    </div>
  );
}

/** Whether a track has a crossing already. */
const isThere = (crossing: TriedCrossing, track: ClipTrack): boolean =>
  crossing.track.spans.every((s, i) => s.from === track.spans[i].from && s.length === track.spans[i].length);
