import { type PanelRun, panelRuns, type Shot } from '@varrup/core';
import { useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { haveImages } from '../media/images.ts';
import { Journal } from '../shot/journal.ts';
import { openShot } from '../shot/open.ts';
import { Button } from '../ui/Button.tsx';
import { heightOf, PanelPictures } from './panel-picture.ts';

/** Pixels a panel is printed with: 300 an inch at the width it has on the page. */
const WIDTH = 1_000;

/** The board as a page to print: the idea, and panel by panel its picture, its words and how long it stands. */
export function BoardPage() {
  const { id = '' } = useParams();
  const [shot, setShot] = useState<Shot | null>(null);
  const [pictures, setPictures] = useState<readonly string[]>([]);
  const [failure, setFailure] = useState('');
  useEffect(() => {
    let gone = false;
    openShot(id, new Journal())
      .then(async (opened) => {
        const taken = await picturesOf(opened.shot);
        if (gone) return;
        setShot(opened.shot);
        setPictures(taken);
        document.title = `${opened.shot.name}, the board – Varrup`;
      })
      .catch((error: Error) => !gone && setFailure(error.message));
    return () => {
      gone = true;
    };
  }, [id]);
  if (failure) return <p className="p-8">{failure}</p>;
  if (!shot || pictures.length < shot.panels.size) return <p className="p-8 text-graphite">Drawing the page…</p>;
  const runs = panelRuns(shot);
  const seconds = (frames: number) => `${(frames / shot.rate).toFixed(2)} s`;
  const whole = runs.reduce((sum, r) => sum + r.panel.frames, 0);
  return (
    <main className="board-page mx-auto max-w-[60rem] bg-[#ffffff] px-10 py-8 text-[#22262b]">
      <nav className="mb-6 flex gap-3 print:hidden">
        <Button look="solid" onClick={() => print()}>
          Print, or keep as PDF
        </Button>
        <Link to={`/shots/${id}/plan`} className="self-center text-blue underline">
          back to the board
        </Link>
      </nav>
      <header className="mb-5 border-b border-[#dcd5c7] pb-3">
        <h1 className="text-[20px] font-semibold">{shot.name}</h1>
        {shot.plan.idea ? <p className="mt-1 text-[15px]">{shot.plan.idea}</p> : null}
        <p className="tabular mt-1 text-[#5d6167]">
          {shot.plan.audience ? `For ${shot.plan.audience}. ` : ''}
          {runs.length} panels, {whole} frames at {shot.rate} a second: {seconds(whole)}
        </p>
      </header>
      <ol className="grid grid-cols-2 gap-x-6 gap-y-5">
        {runs.map((run, i) => (
          <Printed key={run.panel.id} run={run} picture={pictures[i]} length={seconds(run.panel.frames)} />
        ))}
      </ol>
    </main>
  );
}

function Printed({
  run: { panel, index, first, last },
  picture,
  length,
}: {
  run: PanelRun;
  picture: string;
  length: string;
}) {
  return (
    <li className="break-inside-avoid">
      <img src={picture} alt={`Panel ${index + 1}`} className="block w-full border border-[#dcd5c7]" />
      <p className="mt-1 flex items-baseline gap-2">
        <b className="tabular font-semibold">{index + 1}</b>
        <span className="grow font-medium">{panel.name}</span>
        <span className="tabular text-[12px] text-[#5d6167]">
          {first}–{last} · {length}
        </span>
      </p>
      {panel.happens ? <p className="whitespace-pre-line">{panel.happens}</p> : null}
      {panel.says ? <p className="whitespace-pre-line text-[#5d6167] italic">{panel.says}</p> : null}
    </li>
  );
}

/** The panels of a shot as addresses of pictures, with what their cameras see drawn in. */
async function picturesOf(shot: Shot): Promise<string[]> {
  const runs = panelRuns(shot);
  await haveImages(runs.flatMap((r) => r.panel.picture ?? []));
  const pictures = new PanelPictures(WIDTH);
  const canvas = document.createElement('canvas');
  canvas.width = WIDTH;
  canvas.height = heightOf(WIDTH);
  const context = canvas.getContext('2d')!;
  const out: string[] = [];
  for (const { panel } of runs) {
    pictures.onto(context, shot, panel);
    for (const [frame, dashed] of [
      [panel.camera?.from, false],
      [panel.camera?.to, true],
    ] as const) {
      if (!frame) continue;
      context.strokeStyle = dashed ? '#b97b12' : '#2f5da8';
      context.lineWidth = 4;
      context.setLineDash(dashed ? [14, 10] : []);
      const [w, h] = [frame.wide * WIDTH, (frame.wide * WIDTH * canvas.height) / canvas.width];
      context.strokeRect(frame.x * WIDTH - w / 2, frame.y * WIDTH - h / 2, w, h);
    }
    out.push(canvas.toDataURL('image/jpeg', 0.9));
    // The page has its turn between panels.
    await new Promise((next) => setTimeout(next));
  }
  return out;
}
