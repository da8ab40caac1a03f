import { Circle, Square } from 'lucide-react';
import { type RefObject, useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { bringFootage } from './bring.ts';
import { type Camera, openCamera, Recording, standIn } from './recording.ts';
import { type Act, acts } from './stand-in.ts';

const SIZE = { width: 640, height: 360 };
/** Longer takes are ended by themselves. */
const MOST_SECONDS = 120;
const COUNT_IN = 3;

interface Take {
  readonly id: number;
  readonly blob: Blob;
  readonly address: string;
  readonly seconds: number;
}

type Doing =
  | { readonly is: 'waiting' }
  | { readonly is: 'counting'; readonly left: number }
  | { readonly is: 'recording'; readonly seconds: number }
  | { readonly is: 'keeping' };

/** Acting it out: a count-in, as many takes as one likes, and one of them is kept and pinned to the shot. */
export function ActDialog() {
  const open = useQuestion((q) => q.open === 'act');
  if (!open) return null;
  return (
    <Dialog
      open
      onClose={() => useQuestion.getState().ask(null)}
      title="Act it out"
      about="Do it before the camera, as often as you like, and keep the take that says it. Where there is no camera a stand-in acts."
      wide
    >
      <Acting />
    </Dialog>
  );
}

function Acting() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [source, setSource] = useState<Act | 'camera'>('heave');
  const [doing, setDoing] = useState<Doing>({ is: 'waiting' });
  const [takes, setTakes] = useState<readonly Take[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const camera = useCamera(source, setProblem);
  const session = useSession(canvas, camera, {
    onCount: (left) => setDoing({ is: 'counting', left }),
    onSeconds: (seconds) => setDoing({ is: 'recording', seconds }),
    onTake: (take) => {
      setTakes((all) => [take, ...all]);
      setDoing({ is: 'waiting' });
    },
    onProblem: (sentence) => {
      setProblem(sentence);
      setDoing({ is: 'waiting' });
    },
  });
  const latest = useRef(takes);
  latest.current = takes;
  useEffect(
    () => () => {
      for (const { address } of latest.current) URL.revokeObjectURL(address);
    },
    [],
  );
  const keep = async (take: Take) => {
    setDoing({ is: 'keeping' });
    try {
      await bringFootage(take.blob, `Take ${take.id}`, Math.round(usePlayhead.getState().frame));
      useQuestion.getState().ask(null);
    } catch (error) {
      setProblem((error as Error).message);
      setDoing({ is: 'waiting' });
    }
  };
  const busy = doing.is !== 'waiting';
  return (
    <div className="grid grid-cols-[1fr_15rem] gap-4">
      <div>
        <div className="relative">
          <canvas
            ref={canvas}
            {...SIZE}
            role="img"
            aria-label="What the camera sees"
            className="block w-full rounded-lg bg-well"
          />
          {doing.is === 'counting' ? (
            <span
              className="absolute inset-0 grid place-items-center text-[96px] font-bold text-vermilion"
              role="status"
            >
              {doing.left}
            </span>
          ) : null}
          {doing.is === 'recording' ? (
            <span
              className="tabular absolute top-2 right-2 flex items-center gap-1.5 rounded-full bg-vermilion-ink px-2.5 py-0.5 text-sm text-on-solid"
              role="status"
            >
              <Circle size={10} fill="currentColor" /> {doing.seconds.toFixed(1)} s
            </span>
          ) : null}
        </div>
        <p className="mt-2 min-h-5 text-sm text-vermilion-ink" role="alert">
          {problem}
        </p>
      </div>
      <div className="flex flex-col gap-2">
        <Choice
          label="camera"
          value={source}
          options={[
            ...(Object.keys(acts) as Act[]).map((act) => [act, `stand-in: ${acts[act].word}`] as const),
            ['camera', 'the camera of this machine'],
          ]}
          onChange={(next) => {
            setProblem(null);
            setSource(next);
          }}
        />
        {doing.is === 'recording' ? (
          <Button look="solid" onClick={() => session.stop()}>
            <span className="flex items-center justify-center gap-2">
              <Square size={13} fill="currentColor" /> end the take
            </span>
          </Button>
        ) : (
          <Button look="solid" disabled={busy || !camera} onClick={() => void session.begin()}>
            <span className="flex items-center justify-center gap-2">
              <Circle size={13} fill="currentColor" /> {takes.length > 0 ? 'another take' : 'begin'}
            </span>
          </Button>
        )}
        <h3 className="mt-2 text-sm text-graphite">takes</h3>
        <ul aria-label="Takes" className="flex max-h-64 flex-col gap-2 overflow-y-auto">
          {takes.map((take) => (
            <li key={take.id} className="rounded-md border border-rule p-1">
              <video src={take.address} controls muted className="w-full rounded" aria-label={`Take ${take.id}`} />
              <span className="flex items-center justify-between pt-1">
                <span className="tabular text-sm text-graphite">
                  {take.id} · {take.seconds.toFixed(1)} s
                </span>
                <Button look="pill" disabled={busy} onClick={() => void keep(take)}>
                  keep this one
                </Button>
              </span>
            </li>
          ))}
          {takes.length === 0 ? <li className="text-sm text-graphite">None yet.</li> : null}
        </ul>
      </div>
    </div>
  );
}

/** The camera that is chosen, open for as long as it is. */
function useCamera(source: Act | 'camera', onProblem: (sentence: string) => void): Camera | null {
  const [camera, setCamera] = useState<Camera | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: only another choice opens another camera.
  useEffect(() => {
    let gone = false;
    let opened: Camera | null = null;
    const use = (next: Camera) => {
      opened = next;
      if (gone) next.end();
      else setCamera(next);
    };
    setCamera(null);
    if (source !== 'camera') use(standIn(source, acts[source].word));
    else openCamera().then(use, (error: Error) => onProblem(error.message));
    return () => {
      gone = true;
      opened?.end();
    };
  }, [source]);
  return camera;
}

interface Told {
  readonly onCount: (left: number) => void;
  readonly onSeconds: (seconds: number) => void;
  readonly onTake: (take: Take) => void;
  readonly onProblem: (sentence: string) => void;
}

/** Shows what the camera sees, and records it picture by picture when asked. */
function useSession(canvas: RefObject<HTMLCanvasElement | null>, camera: Camera | null, told: Told) {
  const recording = useRef<Recording | null>(null);
  const phase = useRef<{ began: number; stop: boolean } | null>(null);
  const taken = useRef(0);
  const latest = useRef(told);
  latest.current = told;
  useEffect(() => {
    const context = canvas.current?.getContext('2d');
    if (!camera || !context) return;
    let request = 0;
    let busy = false;
    const opened = performance.now();
    const tick = async (now: number) => {
      const film = recording.current;
      const at = phase.current;
      // What is recorded begins with what is done first.
      if (!film) camera.draw(context, at ? 0 : (now - opened) / 1000);
      else if (!busy && (now - at!.began) / 1000 >= film.seconds) {
        busy = true;
        // Each picture is of its own time, however late it is: what is recorded plays as it was done.
        camera.draw(context, film.seconds);
        await film.add().catch((error: Error) => latest.current.onProblem(error.message));
        latest.current.onSeconds(film.seconds);
        if (at!.stop || film.seconds >= MOST_SECONDS) {
          recording.current = null;
          phase.current = null;
          const blob = await film.finish();
          const id = ++taken.current;
          latest.current.onTake({ id, blob, address: URL.createObjectURL(blob), seconds: film.seconds });
        }
        busy = false;
      }
      request = requestAnimationFrame((next) => void tick(next));
    };
    request = requestAnimationFrame((next) => void tick(next));
    return () => {
      cancelAnimationFrame(request);
      void recording.current?.cancel();
      recording.current = null;
      phase.current = null;
    };
  }, [camera, canvas]);
  return {
    async begin() {
      const own = { began: 0, stop: false };
      phase.current = own;
      for (let left = COUNT_IN; left > 0; left--) {
        latest.current.onCount(left);
        await new Promise((next) => setTimeout(next, 1000));
        if (phase.current !== own) return;
      }
      try {
        const film = await Recording.begin(canvas.current!);
        own.began = performance.now();
        recording.current = film;
        latest.current.onSeconds(0);
      } catch (error) {
        phase.current = null;
        latest.current.onProblem((error as Error).message);
      }
    },
    stop() {
      if (phase.current) phase.current.stop = true;
    },
  };
}
