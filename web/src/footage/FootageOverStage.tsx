import type { Footage, Shot } from '@varrup/core';
import { useShot } from '../shot/shot-store.ts';
import { FootagePicture } from './FootagePicture.tsx';
import { footageMeant, useFootageView } from './films.ts';

const shownAt = (shot: Shot, place: 'beside' | 'corner' | 'over') =>
  shot.footage.values().filter((footage) => footage.shown === place);

/** Footage in the stage's corner, and over it. */
export function FootageOverStage() {
  const shot = useShot((s) => s.shot);
  const flipped = useFootageView((f) => f.flipped);
  useFootageView((f) => f.id);
  if (!shot || shot.footage.size === 0) return null;
  const meant = footageMeant(shot);
  return (
    <>
      {shownAt(shot, 'over').map((footage) => (
        <Over key={footage.id} shot={shot} footage={footage} strength={footage.strength} />
      ))}
      {flipped && meant ? <Over shot={shot} footage={meant} strength={1} /> : null}
      <div className="absolute bottom-10 left-3 flex w-[32%] max-w-96 flex-col gap-2">
        {shownAt(shot, 'corner').map((footage) => (
          <FootagePicture
            key={footage.id}
            shot={shot}
            footage={footage}
            className="overflow-hidden rounded-lg border border-rule shadow-md"
          />
        ))}
      </div>
    </>
  );
}

/** Footage over the stage, as large as what the shot's camera films. */
const Over = ({ shot, footage, strength }: { shot: Shot; footage: Footage; strength: number }) => (
  <div
    className="pointer-events-none absolute inset-0 grid place-items-center [container-type:size]"
    style={{ opacity: strength }}
  >
    <div className="grid aspect-video w-[min(100cqw,100cqh*16/9)] place-items-center">
      <FootagePicture shot={shot} footage={footage} marks={false} className="w-full" />
    </div>
  </div>
);

/** Footage beside the stage's picture, as high as that. */
export function FootageBesideStage() {
  const shot = useShot((s) => s.shot);
  const shown = shot ? shownAt(shot, 'beside') : [];
  if (!shot || shown.length === 0) return null;
  return (
    <section
      aria-label="Footage"
      className="flex w-1/2 shrink-0 flex-col gap-2 overflow-y-auto border-r border-rule bg-well p-2"
    >
      {shown.map((footage) => (
        <FootagePicture key={footage.id} shot={shot} footage={footage} className="w-full rounded" />
      ))}
    </section>
  );
}
