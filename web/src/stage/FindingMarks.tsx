import { checkOf, type Finding } from '@varrup/core';
import { useEffect, useMemo, useRef } from 'react';
import { findingsByMember, useFindings } from '../checks/findings.ts';
import { usePlaces } from '../view/places.ts';
import { usePlayhead } from '../view/playhead.ts';
import { select } from '../view/selection.ts';
import { stageRef } from '../view/stage-ref.ts';

/** More marks than this at once hide what they point at. */
const MOST = 6;

/** Marks in the stage whom the checks have found something of on this frame, and what. */
export function FindingMarks() {
  const findings = useFindings((f) => f.findings);
  const frame = usePlayhead((p) => p.settled);
  const playing = usePlayhead((p) => p.playing);
  const marks = useMemo(() => {
    if (playing) return [];
    return [...findingsByMember(findings)]
      .map(([member, own]) => ({ member, here: own.filter((f) => isHere(f, frame)) }))
      .filter((m) => m.here.length > 0)
      .slice(0, MOST);
  }, [findings, frame, playing]);
  const places = useRef(new Map<string, HTMLElement>());
  useEffect(() => {
    const place = () => {
      for (const { member } of marks) {
        const element = places.current.get(member);
        if (!element) continue;
        const at = stageRef.current?.placeOf(member);
        element.style.display = at ? 'block' : 'none';
        if (at) element.style.transform = `translate(${Math.round(at[0])}px, ${Math.round(at[1])}px)`;
      }
    };
    place();
    return stageRef.current?.afterDrawing(place);
  }, [marks]);
  return (
    <div className="pointer-events-none absolute inset-0 overflow-hidden" data-testid="finding-marks">
      {marks.map(({ member, here }) => (
        <div
          key={member}
          ref={(element) => {
            if (element) places.current.set(member, element);
            else places.current.delete(member);
          }}
          className="absolute top-0 left-0"
        >
          <span className="absolute -top-2.5 -left-2.5 size-5 rounded-full border-2 border-vermilion" aria-hidden />
          <button
            type="button"
            onClick={() => {
              select([member]);
              useFindings.getState().set({ at: here[0].id });
              usePlaces.setState({ side: 'checks' });
            }}
            title={here.map((f) => f.text).join('\n')}
            className="pointer-events-auto absolute top-2 left-2.5 rounded-full bg-vermilion-ink px-2 py-0.5 text-xs whitespace-nowrap text-on-solid"
          >
            {short(here)}
          </button>
        </div>
      ))}
    </div>
  );
}

const isHere = ({ frame, until }: Finding, now: number): boolean =>
  frame !== null && now >= frame - 0.5 && now <= (until ?? frame) + 0.5;

const short = (here: readonly Finding[]): string => {
  const [first] = here;
  const name = checkOf(first.check)?.name.toLowerCase() ?? first.check;
  return here.length === 1 ? name : `${name} and ${here.length - 1} more`;
};
