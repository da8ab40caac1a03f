import { anatomyOf, type Build, buildRemarks, compileRig, stretches } from '@varrup/core';
import { useDeferredValue, useMemo } from 'react';
import { Button } from '../ui/Button.tsx';
import { rigNow, useBuilding } from './build-store.ts';
import { Section } from './Section.tsx';

/** Poses to try the rig in, on the spot, and whether it walks. */
export function TrySection({ build }: { build: Build }) {
  const trying = useBuilding((b) => b.trying);
  const late = useDeferredValue(build);
  const tried = useMemo(() => {
    try {
      const rig = rigNow(late, 1, '');
      const anatomy = anatomyOf(compileRig(rig));
      return { poses: stretches(rig), walks: typeof anatomy === 'string' ? anatomy : null };
    } catch {
      return null;
    }
  }, [late]);
  if (!tried || build.joints.length === 0) return null;
  return (
    <Section title="Try" about="Stretch it before anybody else does.">
      <span className="flex flex-wrap gap-1">
        {tried.poses.map(({ name }) => (
          <Button
            key={name}
            look="pill"
            aria-pressed={trying === name}
            onClick={() => useBuilding.setState({ trying: trying === name ? null : name })}
          >
            {name}
          </Button>
        ))}
      </span>
      <p className="text-sm text-graphite">{tried.walks ?? 'It walks: the gait kit finds its legs, hips and feet.'}</p>
    </Section>
  );
}

/** What one would stumble over, with where. */
export function RemarksSection({ build }: { build: Build }) {
  const late = useDeferredValue(build);
  const remarks = useMemo(() => buildRemarks(late), [late]);
  return (
    <Section title="Remarks">
      {remarks.length === 0 ? <p className="text-sm text-graphite">Nothing to remark.</p> : null}
      <ul className="flex flex-col gap-1 text-sm">
        {remarks.slice(0, 30).map(({ text, joint, stops }) => (
          <li key={text} className={stops ? 'text-vermilion-ink' : ''}>
            {joint ? (
              <button
                type="button"
                className="text-left hover:underline"
                onClick={() => useBuilding.setState({ picked: joint, trying: null })}
              >
                {text}.
              </button>
            ) : (
              `${text}.`.replace(/\.\.$/, '.')
            )}
          </li>
        ))}
      </ul>
    </Section>
  );
}
