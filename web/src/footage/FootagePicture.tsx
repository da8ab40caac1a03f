import { changeFootage, dotTrace, type Footage, frameOfPicture, type PicturePoint, type Shot } from '@varrup/core';
import { type PointerEvent, useEffect, useRef, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { usePlayhead } from '../view/playhead.ts';
import { borrowFilm, pictureNow, useFootageView } from './films.ts';
import { drawMarks } from './marks.ts';

/** The picture of footage that goes with the current frame, with what is marked on it. */
export function FootagePicture({
  shot,
  footage,
  marks = true,
  className = '',
}: {
  shot: Shot;
  footage: Footage;
  /** Whether what is marked on it is drawn, and a press on it marks. */
  marks?: boolean;
  className?: string;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const marking = useFootageView((f) => (marks ? f.marking : null));
  const latest = useRef({ shot, footage, marks });
  latest.current = { shot, footage, marks };
  const draw = useRef(() => {});
  const { media, rate, pictures } = footage;

  useEffect(() => {
    const { film, end } = borrowFilm({ media, rate, pictures }, () => draw.current());
    let late: number | null = null;
    draw.current = () => {
      const element = canvas.current;
      if (!element) return;
      if (film.failure) setFailure(film.failure);
      const now = latest.current;
      const picture = pictureNow(now.footage);
      const image = picture === null ? null : film.pictureNow(picture);
      // One that is still on its way leaves the one before it, and after a moment that is seen to be an old one.
      if (picture !== null && !image) {
        late ??= performance.now();
        if (performance.now() - late > LATE) element.style.opacity = '0.35';
        return;
      }
      late = null;
      element.style.opacity = '';
      const context = element.getContext('2d')!;
      context.fillStyle = '#17191c';
      context.fillRect(0, 0, element.width, element.height);
      if (image) context.drawImage(image, 0, 0, element.width, element.height);
      element.dataset.picture = picture === null ? 'none' : String(picture);
      element.dataset.frame = String(usePlayhead.getState().frame);
      if (now.marks && picture !== null) drawMarks(context, now.shot, now.footage, picture);
    };
    draw.current();
    const stop = usePlayhead.subscribe((now, old) => now.frame !== old.frame && draw.current());
    return () => {
      stop();
      end();
    };
  }, [media, rate, pictures]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever is seen has changed.
  useEffect(() => draw.current(), [shot, footage, marks]);

  const onPress = (event: PointerEvent<HTMLCanvasElement>) => {
    const picture = pictureNow(footage);
    if (!marking || picture === null || event.button !== 0) return;
    const box = event.currentTarget.getBoundingClientRect();
    const at: PicturePoint = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.width];
    mark(shot, footage, marking, picture, at);
  };
  const high = Math.round((WIDE * footage.height) / footage.width);
  return (
    <div className={`relative ${className}`} style={{ aspectRatio: `${footage.width} / ${footage.height}` }}>
      <canvas
        ref={canvas}
        width={WIDE}
        height={high}
        role="img"
        aria-label={`${footage.name}, at this frame`}
        data-testid="footage"
        className={`block size-full ${marking ? 'cursor-crosshair' : ''}`}
        onPointerDown={onPress}
      />
      {failure ? <p className="absolute inset-0 grid place-items-center bg-card p-4 text-center">{failure}</p> : null}
    </div>
  );
}

const WIDE = 720;
/** An old picture is left for so long without a sign, milliseconds. */
const LATE = 150;

/** A press on a picture: it sets a dot and goes on to the next picture, or sets an end of a length. */
function mark(
  shot: Shot,
  footage: Footage,
  marking: NonNullable<ReturnType<typeof useFootageView.getState>['marking']>,
  picture: number,
  at: PicturePoint,
): void {
  const { run } = useShot.getState();
  if (marking.is === 'trace') {
    run(dotTrace, { id: marking.id, picture, at });
    const next = Math.ceil(frameOfPicture(footage, picture + 1, shot.rate) - 1e-3);
    usePlayhead.getState().go(Math.max(next, Math.floor(usePlayhead.getState().frame) + 1));
    return;
  }
  const old = footage.scale ?? { a: at, b: at, metres: 1 };
  const scale = marking.end === 'a' ? { ...old, a: at, b: footage.scale ? old.b : at } : { ...old, b: at };
  run(changeFootage, { id: footage.id, change: { scale } });
  // After the first end the second one.
  useFootageView.setState({ marking: marking.end === 'a' ? { is: 'scale', end: 'b' } : null });
}
