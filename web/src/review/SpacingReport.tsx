import { bouncingPaths, CurveReader, playedCurve, type Shot, spacing, splitPath } from '@varrup/core';

/** Longer than this a figure of single frames is none any more. */
const MOST_FRAMES = 240;
const [WIDE, HIGH, BARS, EDGE] = [760, 90, 46, 12];

/** The channels the report is about: those that somebody said something of, and heights of things that bounce. A figure's controls go up and down all the time. */
export function meantPaths(shot: Shot): string[] {
  const noted = shot.notes.values().flatMap(({ on }) => (on.is === 'curve' || on.is === 'channel' ? [on.path] : []));
  const things = shot.members.values().flatMap((m) => (m.kind === 'control' ? [] : [m.id]));
  const bouncing = bouncingPaths(shot, things).filter((path) => splitPath(path).channel === 'move.y');
  return [...new Set([...bouncing, ...noted])];
}

/** Spacing for the printer: where a channel is at each frame, as dots, and how far it goes from one to the next, as bars. */
export function SpacingReport({ shot }: { shot: Shot }) {
  const figures = meantPaths(shot).flatMap((path) => {
    const curve = playedCurve(shot, path);
    return curve?.type === 'number' ? [{ path, reader: new CurveReader(curve) }] : [];
  });
  if (figures.length === 0) return null;
  return (
    <section aria-label="Spacing">
      <h2 className="mb-2 text-[16px] font-semibold">Spacing</h2>
      {figures.map(({ path, reader }) => (
        <Figure key={path} shot={shot} path={path} reader={reader} />
      ))}
    </section>
  );
}

function Figure({ shot, path, reader }: { shot: Shot; path: string; reader: CurveReader }) {
  const { member, channel } = splitPath(path);
  const first = shot.play.first;
  const count = Math.min(MOST_FRAMES, shot.play.last - first);
  if (count < 1) return null;
  const steps = new Float64Array(count);
  const most = spacing(reader, first, steps);
  const dots = Array.from({ length: count + 1 }, (_, i) => ({ i, frame: first + i, value: reader.at(first + i) }));
  const bars = [...steps].map((step, i) => ({ i, frame: first + i, tall: most > 0 ? (step / most) * (BARS - 4) : 0 }));
  const [low, high] = [Math.min(...dots.map((d) => d.value)), Math.max(...dots.map((d) => d.value))];
  const x = (i: number) => EDGE + (i / count) * (WIDE - 2 * EDGE);
  const y = (value: number) => EDGE + (high > low ? (high - value) / (high - low) : 0.5) * (HIGH - 2 * EDGE);
  const fastest = first + steps.indexOf(most);
  const words = `${shot.members.get(member)?.name} ${channel.replace('.', ' ')}`;
  return (
    <figure className="mb-4 break-inside-avoid">
      <figcaption className="tabular">
        <b className="font-medium">{words}</b> · from {low.toFixed(3)} to {high.toFixed(3)} · most from frame {fastest}{' '}
        to {fastest + 1}: {most.toFixed(3)}
        {shot.play.last - first > count ? ` · its first ${count} frames` : ''}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH + BARS + 14}`}
        className="block w-full"
        role="img"
        aria-label={`Spacing of ${words}, frames ${first} to ${first + count}`}
      >
        {dots.map(({ i, frame, value }) => (
          <circle key={frame} cx={x(i)} cy={y(value)} r={i % 10 === 0 ? 2.6 : 1.7} fill="#22262b" />
        ))}
        {bars.map(({ i, frame, tall }) => (
          <rect key={frame} x={x(i + 0.15)} y={HIGH + BARS - tall} width={x(0.7) - x(0)} height={tall} fill="#b97b12" />
        ))}
        {dots
          .filter(({ i, frame }) => i === 0 || frame % 12 === 0)
          .map(({ i, frame }) => (
            <text key={frame} x={x(i)} y={HIGH + BARS + 11} fontSize="9" textAnchor="middle" fill="#5d6167">
              {frame}
            </text>
          ))}
      </svg>
    </figure>
  );
}
