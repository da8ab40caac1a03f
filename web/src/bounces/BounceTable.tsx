import {
  type BounceRow,
  bounceTables,
  bouncingPaths,
  type Contact,
  type FilmRow,
  filmedBounces,
  gravityOf,
  oneGravity,
  reshapeBounce,
  type Shot,
  splitPath,
} from '@varrup/core';
import { Fragment, useMemo, useState } from 'react';
import { useShot } from '../shot/shot-store.ts';
import { tryOut } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { select, useSelection } from '../view/selection.ts';

/** Every bounce of what is picked in numbers: when it lands, how high it comes, how long it takes, and whether it touches. */
export function BounceTable() {
  const shot = useShot((s) => s.shot);
  const selection = useSelection((s) => s.picked);
  const channels = useSelection((s) => s.channels);
  const tables = useMemo(() => {
    if (!shot) return [];
    const members = selection.length > 0 ? selection : shot.members.keys();
    const picked = bounceTables(shot, channels);
    return picked.length > 0 ? picked : bounceTables(shot, bouncingPaths(shot, members));
  }, [shot, selection, channels]);
  const films = useMemo(() => (shot ? filmedBounces(shot) : []), [shot]);
  const [chosen, setChosen] = useState('');
  const film = films.find((f) => f.id === chosen) ?? films[0];
  if (!shot) return null;
  if (tables.length === 0) {
    return (
      <p className="grid h-full place-items-center text-graphite">
        {selection.length > 0
          ? 'Nothing of what is picked bounces. Key some tops and landings, or use the Bounce kit.'
          : 'Nothing bounces in this shot yet.'}
      </p>
    );
  }
  return (
    <div className="h-full overflow-auto px-4 py-2">
      {films.length > 0 ? (
        <label className="mb-2 flex items-center gap-2 text-graphite">
          beside it, on film
          <select
            value={chosen === NO_FILM ? NO_FILM : film.id}
            onChange={(event) => setChosen(event.target.value)}
            className="h-7 rounded-md border border-rule bg-paper text-ink"
          >
            {films.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
            <option value={NO_FILM}>nothing</option>
          </select>
        </label>
      ) : null}
      {tables.map(({ path, rows }) => (
        <OneBounce
          key={`${path} ${rows[0].contact.frame}`}
          shot={shot}
          path={path}
          rows={rows}
          film={chosen === NO_FILM ? [] : (film?.rows ?? [])}
        />
      ))}
    </div>
  );
}

const columns = [
  ['contact', 'the frame it touches the ground'],
  ['height', 'how high it rises from there; type another'],
  ['of the fall', 'that height as a share of the fall before it'],
  ['up', 'frames up to the top'],
  ['down', 'frames down to the next contact'],
  ['takes', 'frames from this contact to the next; type another, and all that comes after moves along'],
  ['gravity', 'the gravity that makes it as high as that in its time: the same in every bounce of one motion'],
  ['to the ground', 'whether it touches what it lands on'],
] as const;

interface OneBounceProps {
  readonly shot: Shot;
  readonly path: string;
  readonly rows: readonly BounceRow[];
  /** What was followed on footage, laid under it bounce by bounce. */
  readonly film: readonly FilmRow[];
}

function OneBounce({ shot, path, rows, film }: OneBounceProps) {
  const { member, channel } = splitPath(path);
  const name = shot.members.at(member).name;
  const metres = channel.startsWith('move.') || channel.startsWith('pivot.');
  return (
    <table className="mb-3 w-full max-w-3xl border-collapse text-sm">
      <caption className="pb-1 text-left font-semibold text-base">
        {name} <span className="font-normal text-graphite">{channel.replace('.', ' ')}</span>
        {isUneven(rows, shot.rate) ? (
          <Hint
            text="Each bounce keeps its time and gets the height that the gravity of the first fall asks for"
            side="right"
          >
            <Button
              look="pill"
              className="ml-3 h-6! px-2! font-normal text-sm"
              onClick={() =>
                tryOut(
                  { owner: `one gravity ${path}`, title: 'One gravity' },
                  oneGravity,
                  { path, frame: rows[0].contact.frame },
                  'It falls under one gravity as it is.',
                )
              }
            >
              one gravity
            </Button>
          </Hint>
        ) : null}
      </caption>
      <thead>
        <tr className="text-graphite">
          {columns.map(([word, hint]) => (
            <th key={word} scope="col" className="border-b border-rule px-2 py-1 text-right font-normal" title={hint}>
              {word}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        <FirstFall contact={rows[0].contact} metres={metres} rate={shot.rate} />
        {rows.map((row, i) => (
          <Fragment key={row.contact.frame}>
            <Row row={row} metres={metres} rate={shot.rate} />
            {film[i] ? <OnFilm row={film[i]} /> : null}
          </Fragment>
        ))}
      </tbody>
    </table>
  );
}

/** Gravities further apart than this share of the first are not one. */
const APART = 0.02;

const isUneven = (rows: readonly BounceRow[], rate: number): boolean => {
  const first = gravityOf(rows[0].contact.fall) * rate * rate;
  return rows.some(({ gravity }) => gravity !== null && Math.abs(gravity / first - 1) > APART);
};

/** The fall that everything begins with. */
function FirstFall({ contact, metres, rate }: { contact: Contact; metres: boolean; rate: number }) {
  const { fall } = contact;
  const cell = 'border-b border-rule px-2 py-0.5 text-right tabular text-graphite';
  return (
    <tr>
      <td className={cell}>falls from {round(fall.top)}</td>
      <td className={cell}>
        {fall.height.toFixed(3)} {metres ? 'm' : ''}
      </td>
      <td className={cell} />
      <td className={cell} />
      <td className={cell}>{round(fall.frames)}</td>
      <td className={cell} />
      <td className={cell}>
        {(gravityOf(fall) * rate * rate).toFixed(2)} {metres ? 'm/s²' : ''}
      </td>
      <td className={cell} />
    </tr>
  );
}

/** Not the id of a followed point. */
const NO_FILM = 'nothing:';

/** The same bounce on film, under that of the shot. */
function OnFilm({ row }: { row: FilmRow }) {
  const cells = [
    `film ${round(row.contact)}`,
    row.height === null ? '' : `${row.height.toFixed(3)} m`,
    row.ratio === null ? '' : `${Math.round(row.ratio * 100)} %`,
    row.framesUp === null ? '' : round(row.framesUp),
    row.framesDown === null ? '' : round(row.framesDown),
    row.framesUp === null || row.framesDown === null ? '' : round(row.framesUp + row.framesDown),
    row.gravity === null ? '' : `${row.gravity.toFixed(2)} m/s²`,
    '',
  ];
  return (
    <tr className="text-ochre-ink">
      {cells.map((words, i) => (
        <td key={columns[i][0]} className="tabular border-rule border-b px-2 py-0.5 text-right">
          {words}
        </td>
      ))}
    </tr>
  );
}

function Row({ row, metres, rate }: { row: BounceRow; metres: boolean; rate: number }) {
  const run = useShot((s) => s.run);
  const here = usePlayhead((p) => Math.abs(p.settled - row.contact.frame) < 0.5);
  const { contact } = row;
  const flight = row.framesUp !== null && row.framesDown !== null ? row.framesUp + row.framesDown : null;
  const reshape = (change: { height?: number; frames?: number }) =>
    run(reshapeBounce, { path: row.path, frame: contact.frame, ...change });
  const cell = 'border-b border-rule px-2 py-0.5 text-right tabular';
  const unit = metres ? 'm' : '';
  const off = row.gap === null ? null : row.gap * 1000;
  return (
    <tr className={here ? 'bg-blue-wash' : ''}>
      <td className={cell}>
        <Hint text="Go to this contact" side="right">
          <Button
            className="tabular h-6! px-1.5!"
            aria-label={`Go to the contact at ${round(contact.frame)}`}
            onClick={() => {
              usePlayhead.getState().stop();
              usePlayhead.getState().go(contact.frame);
              select([splitPath(row.path).member]);
            }}
          >
            {round(contact.frame)}
            <span className="ml-1.5 text-graphite">{((contact.frame - 1) / rate).toFixed(2)} s</span>
          </Button>
        </Hint>
      </td>
      <td className={cell}>
        {row.height === null || flight === null ? (
          row.height === null ? (
            'comes to rest'
          ) : (
            row.height.toFixed(3)
          )
        ) : (
          <span className="inline-block w-20">
            <NumberField
              label={`Height of the bounce from ${round(contact.frame)}`}
              value={row.height}
              unit={unit}
              step={0.01}
              digits={3}
              min={0.001}
              max={10_000}
              onChange={(height) => reshape({ height })}
            />
          </span>
        )}
      </td>
      <td className={cell}>{row.ratio === null ? '' : `${Math.round(row.ratio * 100)} %`}</td>
      <td className={cell}>{row.framesUp === null ? '' : round(row.framesUp)}</td>
      <td className={cell}>{row.framesDown === null ? '' : round(row.framesDown)}</td>
      <td className={cell}>
        {flight === null ? (
          ''
        ) : (
          <span className="inline-block w-14">
            <NumberField
              label={`Frames of the bounce from ${round(contact.frame)}`}
              value={flight}
              step={1}
              digits={0}
              whole
              min={1}
              max={10_000}
              onChange={(frames) => reshape({ frames })}
            />
          </span>
        )}
      </td>
      <td className={cell}>{row.gravity === null ? '' : `${row.gravity.toFixed(2)} ${metres ? 'm/s²' : ''}`}</td>
      <td className={`${cell} ${off !== null && Math.abs(off) > 1 ? 'font-semibold text-vermilion-ink' : ''}`}>
        {off === null ? '' : groundWords(off)}
      </td>
    </tr>
  );
}

/** How it stands to the ground it lands on, from millimetres above it. */
function groundWords(off: number): string {
  if (Math.abs(off) < 0.05) return 'touches';
  return `${Math.abs(off).toFixed(1)} mm ${off > 0 ? 'above' : 'in it'}`;
}

const round = (frames: number) => String(Math.round(frames * 100) / 100);
