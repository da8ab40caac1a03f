import {
  addSounds,
  changeFootage,
  type Footage,
  footagePlaces,
  metresWide,
  momentOf,
  newId,
  putMarker,
  putTrace,
  removeTraces,
  type Shot,
  type Trace,
  tracedBounces,
  tracedPoints,
  unpinFootage,
} from '@varrup/core';
import { Clapperboard, Crosshair, FileVideo, Flag, MoveVertical, Trash2, Volume2 } from 'lucide-react';
import { useMemo } from 'react';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { mediaAddress } from '../media/media.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Part, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Words } from '../ui/Words.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { footageMeant, useFootageView } from './films.ts';
import { tracesOf } from './marks.ts';

/** Footage pinned to the shot: how its time goes with the shot's, where it is shown, and what is measured on it. */
export function FootagePanel({ shot }: { shot: Shot }) {
  useFootageView((f) => f.id);
  const meant = footageMeant(shot);
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="pt-1.5 font-semibold">Footage</h2>
      <span className="mt-1 flex flex-wrap gap-1">
        <Hint
          text="Bring in footage: MP4 or WebM, or numbered pictures, all of them at once. It can be dropped on any desk as well"
          keys={shortcutOf('cast.file')}
        >
          <Button look="pill" onClick={() => commandOf('cast.file').run()}>
            <span className="flex items-center gap-1.5">
              <FileVideo size={14} /> bring in…
            </span>
          </Button>
        </Hint>
        <Hint text={commandOf('footage.act').label} keys={shortcutOf('footage.act')}>
          <Button look="pill" onClick={() => commandOf('footage.act').run()}>
            <span className="flex items-center gap-1.5">
              <Clapperboard size={14} /> act it out…
            </span>
          </Button>
        </Hint>
      </span>
      {shot.footage.size === 0 ? (
        <p className="mt-3 text-graphite">
          No footage yet. What somebody does before a camera, or a film of a real ball, stands beside the stage frame by
          frame, and is measured there.
        </p>
      ) : (
        <ul aria-label="Footage of the shot" className="mt-2 flex flex-col gap-1">
          {shot.footage.values().map((footage) => (
            <li key={footage.id}>
              <button
                type="button"
                aria-pressed={footage.id === meant?.id}
                onClick={() => useFootageView.setState({ id: footage.id, marking: null })}
                className="flex w-full items-center gap-2 rounded-md p-1 text-left hover:bg-well aria-pressed:bg-blue-wash"
              >
                <img
                  src={
                    footage.pictures.length > 0 ? mediaAddress(footage.media) : `${mediaAddress(footage.media)}/poster`
                  }
                  alt=""
                  className="h-9 w-16 shrink-0 rounded bg-well object-cover"
                />
                <span className="min-w-0">
                  <span className="block truncate">{footage.name}</span>
                  <span className="tabular block text-xs text-graphite">
                    {footage.seconds.toFixed(2)} s · {Math.round(footage.rate * 100) / 100} a second
                  </span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      )}
      {meant ? <Fields key={meant.id} shot={shot} footage={meant} /> : null}
    </div>
  );
}

const placeWords: Record<(typeof footagePlaces)[number], string> = {
  beside: 'beside the stage',
  corner: 'in its corner',
  over: 'over it',
  card: 'on a card in the scene',
  off: 'nowhere',
};

function Fields({ shot, footage }: { shot: Shot; footage: Footage }) {
  const { run } = useShot.getState();
  const change = (part: Partial<Footage>) => run(changeFootage, { id: footage.id, change: part });
  const seconds = { step: 0.04, digits: 2, unit: 's', min: 0, max: footage.seconds } as const;
  return (
    <>
      <div className="mt-2 flex flex-col gap-1">
        <Words
          label="Name of the footage"
          value={footage.name}
          most={80}
          onChange={(name) => name.trim() && change({ name })}
        />
        <Choice
          label="shown"
          value={footage.shown}
          options={footagePlaces.map((place) => [place, placeWords[place]] as const)}
          onChange={(shown) => change({ shown })}
        />
        {footage.shown === 'over' || footage.shown === 'card' ? (
          <Row label="strong">
            <NumberField
              label="How strong it is, in hundredths"
              value={footage.strength * 100}
              step={5}
              digits={0}
              min={0}
              max={100}
              unit="%"
              onChange={(value) => change({ strength: value / 100 })}
            />
          </Row>
        ) : null}
        <Row label="from">
          <NumberField
            label="The frame of the shot it begins on"
            value={footage.frame}
            step={1}
            digits={1}
            min={-100_000}
            max={1_000_000}
            onChange={(frame) => change({ frame })}
          />
          <NumberField
            label="Seconds of it that go by in one of the shot"
            value={footage.speed}
            step={0.05}
            digits={3}
            min={0.02}
            max={20}
            unit="×"
            onChange={(speed) => change({ speed })}
          />
        </Row>
        {footage.pictures.length > 0 ? (
          <Row label="rate">
            <NumberField
              label="Pictures of the run in a second"
              value={footage.rate}
              step={1}
              digits={3}
              min={1}
              max={240}
              unit="/s"
              onChange={(rate) => change(atRate(footage, rate))}
            />
          </Row>
        ) : null}
        <Row label="part">
          <NumberField
            label="Its first second"
            value={footage.from}
            onChange={(from) => change({ from })}
            {...seconds}
          />
          <NumberField
            label="Its last second"
            value={footage.until}
            onChange={(until) => change({ until })}
            {...seconds}
          />
        </Row>
      </div>
      {footage.shown === 'card' ? <CardFields footage={footage} change={change} /> : null}
      <Scale footage={footage} change={change} />
      <Part title="followed points">
        {tracesOf(shot, footage.id).map((trace) => (
          <Followed key={trace.id} footage={footage} trace={trace} />
        ))}
        <Button
          look="pill"
          className="self-start"
          onClick={() => {
            const id = newId();
            const count = tracesOf(shot, footage.id).length;
            run(putTrace, { trace: { id, footage: footage.id, name: `Point ${count + 1}`, side: 'centre', dots: [] } });
            useFootageView.setState({ marking: { is: 'trace', id } });
          }}
        >
          <span className="flex items-center gap-1.5">
            <Crosshair size={14} /> follow a point
          </span>
        </Button>
      </Part>
      <Part title="besides">
        <span className="flex flex-wrap gap-1">
          <Button
            look="pill"
            title="A marker in the sheet on the current frame"
            onClick={() =>
              run(putMarker, { marker: momentOf(footage, usePlayhead.getState().frame, newId(), 'key moment') })
            }
          >
            <span className="flex items-center gap-1.5">
              <Flag size={14} /> key moment here
            </span>
          </Button>
          {footage.pictures.length === 0 ? (
            <Button look="pill" title="Its sound, under the sheet" onClick={() => laySound(footage)}>
              <span className="flex items-center gap-1.5">
                <Volume2 size={14} /> lay its sound
              </span>
            </Button>
          ) : null}
          <Button look="pill" onClick={() => run(unpinFootage, { id: footage.id })}>
            <span className="flex items-center gap-1.5">
              <Trash2 size={14} /> take it off
            </span>
          </Button>
        </span>
      </Part>
    </>
  );
}

/** A run at another rate: the same pictures, the same part of them. */
const atRate = ({ pictures, rate: old, from, until }: Footage, rate: number): Partial<Footage> => ({
  rate,
  seconds: pictures.length / rate,
  from: (from * old) / rate,
  until: (until * old) / rate,
});

/** Lays the sound of footage under the sheet, where the footage is. At another speed than its own it would not fit. */
function laySound(footage: Footage): void {
  const { media, seconds, frame, from, until, name } = footage;
  const sound = { id: newId(), name, sound: { media, seconds }, frame, gain: 1, part: { from, until } };
  useShot.getState().run(addSounds, { sounds: [sound] });
}

function CardFields({ footage, change }: { footage: Footage; change: (part: Partial<Footage>) => void }) {
  const { card } = footage;
  const metres = metresWide(footage);
  return (
    <Part title="card in the scene">
      <Row label="at">
        {(['x', 'y', 'z'] as const).map((axis, i) => (
          <NumberField
            key={axis}
            label={`Card: ${axis}`}
            value={card.at[i]}
            step={0.05}
            digits={2}
            min={-1_000}
            max={1_000}
            onChange={(value) => change({ card: { ...card, at: card.at.with(i, value) as [number, number, number] } })}
          />
        ))}
      </Row>
      <Row label="wide">
        <NumberField
          label="How wide the card is"
          value={card.wide}
          step={0.05}
          digits={2}
          min={0.01}
          max={1_000}
          unit="m"
          onChange={(wide) => change({ card: { ...card, wide } })}
        />
        <NumberField
          label="How the card is turned"
          value={(card.turn * 180) / Math.PI}
          step={5}
          digits={0}
          min={-360}
          max={360}
          unit="°"
          onChange={(turn) => change({ card: { ...card, turn: (turn * Math.PI) / 180 } })}
        />
      </Row>
      {metres ? (
        <Button look="pill" className="self-start" onClick={() => change({ card: { ...card, wide: metres } })}>
          as large as it is: {metres.toFixed(2)} m
        </Button>
      ) : null}
    </Part>
  );
}

/** How large things on the picture are: two points, and what lies between them. */
function Scale({ footage, change }: { footage: Footage; change: (part: Partial<Footage>) => void }) {
  const marking = useFootageView((f) => f.marking);
  const { scale } = footage;
  return (
    <Part title="how large">
      <span className="flex flex-wrap items-center gap-1">
        <Button
          look="pill"
          aria-pressed={marking?.is === 'scale'}
          title="Press the two ends of something whose length is known on the picture"
          onClick={() =>
            useFootageView.setState({ marking: marking?.is === 'scale' ? null : { is: 'scale', end: 'a' } })
          }
        >
          <span className="flex items-center gap-1.5">
            <MoveVertical size={14} /> mark a length
          </span>
        </Button>
        {scale ? (
          <span className="w-24">
            <NumberField
              label="What was marked is so long"
              value={scale.metres}
              step={0.05}
              digits={3}
              min={0.001}
              max={10_000}
              unit="m"
              onChange={(metres) => change({ scale: { ...scale, metres } })}
            />
          </span>
        ) : null}
      </span>
      {marking?.is === 'scale' ? (
        <p className="text-sm text-graphite" role="status">
          Press {marking.end === 'a' ? 'one end' : 'the other end'} of a known length on the picture.
        </p>
      ) : null}
    </Part>
  );
}

function Followed({ footage, trace }: { footage: Footage; trace: Trace }) {
  const { run } = useShot.getState();
  const marked = useFootageView((f) => f.marking?.is === 'trace' && f.marking.id === trace.id);
  const points = useMemo(() => tracedPoints(trace, footage), [trace, footage]);
  const bounces = useMemo(() => (points ? tracedBounces(points) : []), [points]);
  const put = (part: Partial<Trace>) => run(putTrace, { trace: { ...trace, ...part } });
  const heights = points?.map((p) => p.y) ?? [];
  return (
    <div className="rounded-md border border-rule p-1.5">
      <span className="flex items-center gap-1">
        <Words
          label="What is followed"
          value={trace.name}
          most={80}
          className="h-7"
          onChange={(name) => name.trim() && put({ name })}
        />
        <select
          aria-label={`Side of ${trace.name}`}
          value={trace.side}
          onChange={(event) => put({ side: event.target.value as Trace['side'] })}
          className="h-7 rounded-md border border-rule bg-paper px-1"
        >
          <option value="left">left</option>
          <option value="right">right</option>
          <option value="centre">centre</option>
        </select>
        <Button
          look="icon"
          aria-label={`Follow ${trace.name}: press it on the picture, picture by picture`}
          title="Press it on the picture, picture by picture"
          aria-pressed={marked}
          onClick={() => useFootageView.setState({ marking: marked ? null : { is: 'trace', id: trace.id } })}
        >
          <Crosshair size={14} />
        </Button>
        <Button
          look="icon"
          aria-label={`Follow ${trace.name} no more`}
          onClick={() => run(removeTraces, { ids: [trace.id] })}
        >
          <Trash2 size={14} />
        </Button>
      </span>
      <p className="tabular mt-1 text-sm text-graphite">
        {trace.dots.length} dots
        {points === null && trace.dots.length > 0 ? ', in no measure yet: mark a length' : ''}
        {heights.length > 0
          ? ` · from ${Math.min(...heights).toFixed(3)} to ${Math.max(...heights).toFixed(3)} m high`
          : ''}
      </p>
      {bounces.length > 0 ? (
        <table aria-label={`Bounces of ${trace.name}`} className="tabular mt-1 w-full text-right text-sm">
          <thead className="text-xs text-graphite">
            <tr>
              <th className="font-normal">lands</th>
              <th className="font-normal">height</th>
              <th className="font-normal">ratio</th>
              <th className="font-normal">gravity</th>
            </tr>
          </thead>
          <tbody>
            {bounces.map((bounce) => (
              <tr key={bounce.top}>
                <td>{bounce.lands.toFixed(2)} s</td>
                <td>{bounce.height.toFixed(3)} m</td>
                <td>{bounce.ratio?.toFixed(2) ?? ''}</td>
                <td>{bounce.gravity?.toFixed(1) ?? ''}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </div>
  );
}
