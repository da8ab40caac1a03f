import {
  bounceTables,
  type FilmRow,
  type Finding,
  filmedBounces,
  findingsOf,
  type Note,
  type Shot,
  splitPath,
  strokesOn,
} from '@varrup/core';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { DrawingRaster } from '../drawing/raster.ts';
import { picturesOfShot } from '../media/textures.ts';
import { picture } from '../pictures/pictures.ts';
import { Journal } from '../shot/journal.ts';
import { openShot } from '../shot/open.ts';
import { Button } from '../ui/Button.tsx';
import { subjectWords } from './notes.ts';
import { notesOf } from './notes-of.ts';
import { meantPaths, SpacingReport } from './SpacingReport.tsx';

const WIDTH = 640;
const HEIGHT = 360;

interface Report {
  readonly shot: Shot;
  readonly findings: readonly Finding[];
  /** Pictures of the frames that notes are on, by note. */
  readonly pictures: ReadonlyMap<string, string>;
}

/** The review as a page to print: the notes with their pictures, the checks, heights and times. */
export function ReportPage() {
  const { id = '' } = useParams();
  const [report, setReport] = useState<Report | null>(null);
  const [failure, setFailure] = useState('');
  useEffect(() => {
    let gone = false;
    openShot(id, new Journal())
      .then(async ({ shot }) => {
        const pictures = await picturesOf(shot);
        if (gone) return;
        document.title = `${shot.name}, review – Varrup`;
        setReport({ shot, findings: findingsOf(shot), pictures });
      })
      .catch((error: Error) => !gone && setFailure(error.message));
    return () => {
      gone = true;
    };
  }, [id]);
  if (failure) return <p className="p-8">{failure}</p>;
  if (!report) return <p className="p-8 text-graphite">Putting the page together…</p>;
  const { shot, findings, pictures } = report;
  const notes = notesOf(shot);
  const { first, last } = shot.play;
  return (
    <main className="mx-auto max-w-[60rem] bg-[#ffffff] px-10 py-8 text-[#22262b]">
      <nav className="mb-6 flex gap-3 print:hidden">
        <Button look="solid" onClick={() => print()}>
          Print, or keep as PDF
        </Button>
        <Link to={`/shots/${id}/review`} className="self-center text-blue underline">
          back to the review
        </Link>
      </nav>
      <header className="mb-4 border-b border-[#dcd5c7] pb-3">
        <h1 className="text-[20px] font-semibold">{shot.name}</h1>
        <p className="tabular text-[#5d6167]">
          frames {first} to {last}, {((last - first + 1) / shot.rate).toFixed(2)} s at {shot.rate} a second ·{' '}
          {notes.filter((n) => n.state === 'open').length} of {notes.length} notes open · {findings.length} findings
        </p>
      </header>
      <Notes shot={shot} notes={notes} pictures={pictures} />
      <Checks shot={shot} findings={findings} />
      <Bounces shot={shot} />
      <SpacingReport shot={shot} />
    </main>
  );
}

const stateWords: Record<Note['state'], string> = { open: 'open', done: 'done', dropped: 'not to be done' };

function Notes({ shot, notes, pictures }: { shot: Shot; notes: readonly Note[]; pictures: Report['pictures'] }) {
  if (notes.length === 0) return null;
  return (
    <section aria-label="Notes" className="mb-6">
      <h2 className="mb-2 text-[16px] font-semibold">Notes</h2>
      <ol className="grid grid-cols-2 gap-x-6 gap-y-4">
        {notes.map((note, i) => (
          <li key={note.id} className="break-inside-avoid">
            {pictures.has(note.id) ? (
              <img
                src={pictures.get(note.id)}
                alt={`Frame ${note.first}`}
                className="block w-full border border-[#dcd5c7]"
              />
            ) : null}
            <p className="tabular text-[12px] text-[#5d6167]">
              {i + 1} · frame {note.first}
              {note.last > note.first ? ` to ${note.last}` : ''} · {subjectWords(note, shot)} · {note.author.name} ·{' '}
              <b className="font-semibold">{stateWords[note.state]}</b>
            </p>
            <p className="whitespace-pre-line">{note.text || '(drawn)'}</p>
            {note.answers.map((answer) => (
              <p key={answer.madeAt} className="border-l-2 border-[#dcd5c7] pl-2">
                {answer.author.name}: {answer.text}
              </p>
            ))}
          </li>
        ))}
      </ol>
    </section>
  );
}

function Checks({ shot, findings }: { shot: Shot; findings: readonly Finding[] }) {
  return (
    <section aria-label="Checks" className="mb-6">
      <h2 className="mb-2 text-[16px] font-semibold">Checks</h2>
      {findings.length === 0 ? <p>Nothing was found.</p> : null}
      <table className="w-full text-left">
        <tbody>
          {findings.map((finding) => (
            <tr key={finding.id} className="break-inside-avoid border-b border-[#eee8dc] align-top">
              <td className="tabular w-16 py-0.5">{finding.frame === null ? '' : Math.round(finding.frame)}</td>
              <td className="w-40 py-0.5">{shot.members.get(finding.member)?.name}</td>
              <td className="py-0.5">{finding.text}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Bounces({ shot }: { shot: Shot }) {
  const tables = bounceTables(shot, meantPaths(shot));
  const films = filmedBounces(shot);
  if (tables.length + films.length === 0) return null;
  return (
    <section aria-label="Heights and times">
      <h2 className="mb-2 text-[16px] font-semibold">Heights and times</h2>
      {tables.map(({ path, rows }) => (
        <Heights
          key={`${path} ${rows[0].contact.frame}`}
          name={`${shot.members.get(splitPath(path).member)?.name} ${splitPath(path).channel.replace('.', ' ')}`}
          rows={rows.map((row) => ({ ...row, contact: row.contact.frame }))}
        />
      ))}
      {films.map(({ id, name, rows }) => (
        <Heights key={id} name={`on film, ${name}`} rows={rows} />
      ))}
    </section>
  );
}

function Heights({ name, rows }: { name: string; rows: readonly (FilmRow & { readonly gap?: number | null })[] }) {
  const say = (value: number | null, digits: number) => value?.toFixed(digits) ?? '';
  return (
    <table className="tabular mb-4 w-full break-inside-avoid text-right">
      <caption className="text-left font-medium">{name}</caption>
      <thead className="text-[12px] text-[#5d6167]">
        <tr>
          {['lands', 'height', 'of the fall', 'frames up', 'frames down', 'gravity', 'gap'].map((word) => (
            <th key={word} className="font-normal">
              {word}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.contact}>
            <td>{say(row.contact, 1)}</td>
            <td>{say(row.height, 3)}</td>
            <td>{say(row.ratio, 2)}</td>
            <td>{say(row.framesUp, 1)}</td>
            <td>{say(row.framesDown, 1)}</td>
            <td>{say(row.gravity, 2)}</td>
            <td>{row.gap === null || row.gap === undefined ? '' : `${(row.gap * 1000).toFixed(1)} mm`}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What is seen on the frames of the notes, with what was drawn there. */
async function picturesOf(shot: Shot): Promise<ReadonlyMap<string, string>> {
  await picturesOfShot(shot);
  const out = new Map<string, string>();
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [WIDTH, HEIGHT];
  const context = canvas.getContext('2d')!;
  for (const note of notesOf(shot)) {
    // Seen as it was drawn over, whether that was through the camera or beside it.
    const look = note.on.is === 'stage' ? note.on.view : undefined;
    const view = { width: WIDTH, height: HEIGHT, theme: 'light', look } as const;
    const image = await createImageBitmap(await picture(shot, note.first, view));
    context.drawImage(image, 0, 0);
    if (look) {
      const raster = new DrawingRaster(WIDTH, HEIGHT);
      raster.draw(strokesOn(shot.strokes, note.id));
      raster.onto(context);
    }
    out.set(note.id, canvas.toDataURL('image/jpeg', 0.88));
  }
  return out;
}
