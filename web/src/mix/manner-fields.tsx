import { type Clip, type LoopPart, type Manner, SHORTEST_LOOP, type Shot } from '@varrup/core';
import { Choice, Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';

/** Fields of what both a span and a clip itself have: how they come and go, what repeats, how they play and turn, and what is moved. */

const frames = { step: 1, digits: 0, whole: true } as const;

/** Over how long it comes and goes, in frames and seconds, and how. @param of whose they are, for those who cannot see it */
export function EaseFields(props: {
  readonly of: string;
  readonly value: Pick<Manner, 'easeIn' | 'easeOut' | 'shape'>;
  readonly rate: number;
  readonly onChange: (change: Partial<Pick<Manner, 'easeIn' | 'easeOut' | 'shape'>>) => void;
}) {
  const { of, value, rate, onChange } = props;
  return (
    <>
      {(
        [
          ['easeIn', 'ease in'],
          ['easeOut', 'ease out'],
        ] as const
      ).map(([name, word]) => (
        <Row key={name} label={word}>
          <span className="w-16 shrink-0">
            <NumberField
              label={`${word} of ${of}`}
              value={value[name]}
              min={0}
              max={10_000}
              {...frames}
              onChange={(eased) => onChange({ [name]: eased })}
            />
          </span>
          <span className="tabular text-sm whitespace-nowrap text-graphite">= {(value[name] / rate).toFixed(2)} s</span>
        </Row>
      ))}
      <Choice
        label="shape"
        value={value.shape}
        options={[
          ['soft', 'soft at both ends'],
          ['even', 'even'],
        ]}
        onChange={(shape) => onChange({ shape })}
      />
    </>
  );
}

/** Whether it plays in place of what lies below, or on top of it. */
export const HowChoice = ({ how, onChange }: { how: Manner['how']; onChange: (how: Manner['how']) => void }) => (
  <Choice
    label="it plays"
    value={how}
    options={[
      ['instead', 'instead of the rest'],
      ['onTop', 'on top of the rest'],
    ]}
    onChange={onChange}
  />
);

/** By how much it turns the body's way, in degrees. */
export const TurnField = (props: { of: string; turn: number; onChange: (turn: number) => void }) => (
  <Row label="turns">
    <span className="w-16 shrink-0">
      <NumberField
        label={`turn of ${props.of}`}
        value={(props.turn * 180) / Math.PI}
        min={-1080}
        max={1080}
        step={1}
        digits={1}
        unit="°"
        onChange={(degrees) => props.onChange((degrees * Math.PI) / 180)}
      />
    </span>
    <span className="text-sm whitespace-nowrap text-graphite">to its left</span>
  </Row>
);

/** The part of a clip that repeats. A clip that repeats as a whole has none. */
export function LoopFields(props: {
  readonly clip: Clip;
  readonly loop: LoopPart | null;
  readonly onChange: (loop: LoopPart | null) => void;
}) {
  const { clip, loop, onChange } = props;
  if (clip.cycles && !loop) return null;
  const third = Math.max(1, Math.round(clip.length / 3));
  const first = { from: third, to: Math.max(third + SHORTEST_LOOP, clip.length - third) };
  return (
    <>
      <label className="flex min-h-7 items-center gap-2">
        <input
          type="checkbox"
          checked={loop !== null}
          onChange={(event) => onChange(event.target.checked ? first : null)}
        />
        a part of it repeats
      </label>
      {loop ? (
        <Row label="frames">
          <span className="w-16">
            <NumberField
              label="first frame that repeats"
              value={loop.from}
              min={0}
              max={loop.to - SHORTEST_LOOP}
              {...frames}
              onChange={(from) => onChange({ ...loop, from })}
            />
          </span>
          <span className="text-graphite">to</span>
          <span className="w-16">
            <NumberField
              label="last frame that repeats"
              value={loop.to}
              min={loop.from + SHORTEST_LOOP}
              max={clip.length}
              {...frames}
              onChange={(to) => onChange({ ...loop, to })}
            />
          </span>
        </Row>
      ) : null}
    </>
  );
}

const WHOLE = 'whole';

/** What is moved: the whole body, or a set of controls with a soft edge. */
export function PartFields(props: {
  readonly shot: Shot;
  readonly rig: string;
  readonly controls: Manner['controls'];
  readonly edge: number;
  readonly onChange: (change: { controls?: string[] | null; edge?: number }) => void;
}) {
  const { shot, rig, controls, edge, onChange } = props;
  const member = shot.members.get(rig);
  const found = member?.kind === 'rig' ? shot.rigs.find(member.shape)?.rig : undefined;
  const sets = (found?.sets ?? []).filter((s) => s.controls.length > 0);
  const own = sets.find((s) => JSON.stringify(s.controls) === JSON.stringify(controls))?.id;
  const part = controls === null ? WHOLE : (own ?? 'own');
  return (
    <>
      <Choice
        label="on"
        value={part}
        options={[
          [WHOLE, 'the whole body'],
          ...(part === 'own' ? [['own', `${controls?.length} controls`] as const] : []),
          ...sets.map((s) => [s.id, s.name] as const),
        ]}
        onChange={(id) => onChange({ controls: sets.find((s) => s.id === id)?.controls.slice() ?? null })}
      />
      {controls !== null ? (
        <Row label="edge">
          <span className="w-16">
            <NumberField
              label="controls its edge is soft over"
              value={edge}
              min={0}
              max={20}
              {...frames}
              onChange={(value) => onChange({ edge: value })}
            />
          </span>
          <span className="text-sm text-graphite">{edge === 1 ? 'control' : 'controls'} soft</span>
        </Row>
      ) : null}
    </>
  );
}
