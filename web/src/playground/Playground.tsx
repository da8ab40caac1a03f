import { useEffect, useRef, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Drive } from './Drive.tsx';
import { type Asked, isPlaygroundTalk, type Said } from './messages.ts';
import { FilePlayer } from './player.ts';
import { Scenery } from './scenery.ts';

const say = (said: Said) => (window.opener ?? window.parent)?.postMessage(said, location.origin);

/** How fast the turntable goes, radians a second. */
const TURN = 0.5;

/**
 * A stand-in for the game, page or film that receives work: it plays a file, chosen, dropped or sent to it, and knows of it nothing but
 * what is in it.
 */
export function Playground() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scenery = useRef<Scenery | null>(null);
  const [player, setPlayer] = useState<FilePlayer | null>(null);
  const [name, setName] = useState('');
  const [drives, setDrives] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const current = useRef<FilePlayer | null>(null);

  const open = async (file: Blob, fileName: string) => {
    try {
      const opened = await FilePlayer.open(await file.arrayBuffer());
      current.current?.dispose();
      current.current = opened;
      scenery.current?.take(opened);
      setDrives(false);
      setPlayer(opened);
      setName(fileName);
      setProblem(null);
      say({ playground: 'opened', motions: opened.clips.map((clip) => clip.name) });
    } catch (error) {
      const why = `${fileName} cannot be read. ${(error as Error).message}`;
      setProblem(why);
      say({ playground: 'refused', why });
    }
  };

  useEffect(() => {
    if (!canvas.current) return;
    const around = new Scenery(canvas.current);
    scenery.current = around;
    const style = getComputedStyle(document.documentElement);
    around.paper(style.getPropertyValue('--color-paper').trim() || '#f4f0e8');
    const size = new ResizeObserver(([{ contentRect }]) => around.resize(contentRect.width, contentRect.height));
    size.observe(canvas.current.parentElement!);
    return () => {
      size.disconnect();
      around.dispose();
      scenery.current = null;
    };
  }, []);

  // biome-ignore lint/correctness/useExhaustiveDependencies: what it opens with does not change.
  useEffect(() => {
    const hear = (event: MessageEvent<Asked>) => {
      if (!isPlaygroundTalk(event)) return;
      const asked = event.data;
      if (asked.playground === 'open') void open(asked.file, asked.name);
      else if (asked.playground === 'show') {
        current.current?.show(asked.motion, asked.seconds);
        scenery.current?.draw();
      } else if (asked.playground === 'places') {
        const places = current.current?.places(asked.motion, asked.seconds, asked.nodes) ?? new Float32Array(0);
        say({ playground: 'places', question: asked.question, places });
        scenery.current?.draw();
      }
    };
    window.addEventListener('message', hear);
    say({ playground: 'ready' });
    return () => window.removeEventListener('message', hear);
  }, []);

  useEffect(() => {
    document.title = name ? `${name} – playground` : 'Playground – Varrup';
  }, [name]);

  return (
    <main
      className="flex h-full min-h-0"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        const [file] = event.dataTransfer.files;
        if (file) void open(file, file.name);
      }}
    >
      <h1 className="sr-only">Playground</h1>
      <section
        aria-label="Player"
        className="flex w-60 shrink-0 flex-col gap-2 overflow-y-auto border-r border-rule bg-card p-3"
      >
        <label className="flex h-8 cursor-pointer items-center justify-center rounded-full border border-rule bg-card hover:bg-well focus-within:outline-2 focus-within:outline-blue">
          open a file…
          <input
            type="file"
            accept=".glb,model/gltf-binary"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) void open(file, file.name);
              event.target.value = '';
            }}
          />
        </label>
        {problem ? (
          <p role="alert" className="text-sm text-vermilion-ink">
            {problem}
          </p>
        ) : null}
        {player && player.driven.length > 0 ? (
          <Drive
            key={`drive ${name} ${player.statistics.bytes}`}
            player={player}
            scenery={scenery.current}
            drives={drives}
            onDrives={setDrives}
          />
        ) : null}
        {player && drives ? null : player ? (
          <Playing key={name + player.statistics.bytes} player={player} name={name} scenery={scenery.current} />
        ) : (
          <p className="text-sm text-graphite">
            This page plays a .glb file with a player that knows nothing of Varrup. Choose one, or drop it here.
          </p>
        )}
      </section>
      <div className="relative min-w-0 grow">
        <canvas ref={canvas} className="absolute inset-0 size-full" aria-label="The file as it is played" role="img" />
      </div>
    </main>
  );
}

/** The clips of a file as buttons, and how they are played. */
function Playing({ player, name, scenery }: { player: FilePlayer; name: string; scenery: Scenery | null }) {
  const [clip, setClip] = useState<string | null>(null);
  const [runs, setRuns] = useState(false);
  const [loop, setLoop] = useState(true);
  const [crossing, setCrossing] = useState(0.3);
  const [turns, setTurns] = useState(false);
  const [skeleton, setSkeleton] = useState(false);
  const [ground, setGround] = useState(true);
  const time = useRef<HTMLInputElement>(null);
  const seconds = useRef<HTMLSpanElement>(null);

  // Frame by frame past React: only the slider and the number follow.
  useEffect(() => {
    if (!runs && !turns) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function step(now) {
      const by = Math.min((now - last) / 1000, 0.25);
      last = now;
      if (runs) player.advance(by);
      if (turns) scenery?.turn(by * TURN);
      scenery?.draw();
      if (time.current) time.current.value = String(player.seconds);
      if (seconds.current) seconds.current.textContent = `${player.seconds.toFixed(2)} s`;
      frame = requestAnimationFrame(step);
    });
    return () => cancelAnimationFrame(frame);
  }, [runs, turns, player, scenery]);

  const { bytes, joints, nodes, meshes, vertices, triangles, keys } = player.statistics;
  const shown = player.clips.find((c) => c.name === clip);
  return (
    <>
      <fieldset className="flex flex-wrap gap-1">
        <legend className="mb-1 text-sm text-graphite">motions</legend>
        {player.clips.map((c) => (
          <Button
            key={c.name}
            look="pill"
            aria-pressed={clip === c.name}
            onClick={() => {
              player.play(c.name, loop, runs ? crossing : 0);
              setClip(c.name);
              setRuns(true);
            }}
          >
            {c.name}
          </Button>
        ))}
        {player.clips.length === 0 ? <p className="text-sm text-graphite">It has none: it stands still.</p> : null}
      </fieldset>
      {shown ? (
        <div className="flex items-center gap-2">
          <Button look="pill" aria-pressed={runs} onClick={() => setRuns(!runs)}>
            {runs ? 'stop' : 'play'}
          </Button>
          <input
            ref={time}
            type="range"
            aria-label="Time"
            min={0}
            max={shown.duration}
            step="any"
            defaultValue={0}
            onChange={(event) => {
              setRuns(false);
              player.show(shown.name, Number(event.target.value));
              if (seconds.current) seconds.current.textContent = `${Number(event.target.value).toFixed(2)} s`;
              scenery?.draw();
            }}
            className="min-w-0 grow accent-blue"
          />
          <span ref={seconds} className="tabular w-14 shrink-0 text-right text-sm">
            0.00 s
          </span>
        </div>
      ) : null}
      <Switch
        word="loop"
        on={loop}
        set={(on) => {
          setLoop(on);
          player.loop = on;
        }}
      />
      <label className="flex items-center gap-2 text-sm">
        <span className="w-14 shrink-0 text-graphite">crossing</span>
        <input
          type="range"
          min={0}
          max={2}
          step={0.05}
          value={crossing}
          onChange={(event) => setCrossing(Number(event.target.value))}
          className="min-w-0 grow accent-blue"
        />
        <span className="tabular w-14 shrink-0 text-right">{crossing.toFixed(2)} s</span>
      </label>
      <Switch word="turntable" on={turns} set={setTurns} />
      <Switch
        word="skeleton"
        on={skeleton}
        set={(on) => {
          setSkeleton(on);
          scenery?.skeleton(on);
        }}
      />
      <Switch
        word="ground"
        on={ground}
        set={(on) => {
          setGround(on);
          scenery?.ground(on);
        }}
      />
      <dl aria-label="Statistics" className="tabular grid grid-cols-[auto_1fr] gap-x-3 text-sm text-graphite">
        {(
          [
            ['file', name],
            ['size', `${(bytes / 1000).toFixed(0)} kB`],
            ['nodes', nodes],
            ['joints', joints],
            ['meshes', meshes],
            ['vertices', vertices],
            ['triangles', triangles],
            ['keys', keys],
            ...(shown ? ([['length', `${shown.duration.toFixed(2)} s`]] as const) : []),
          ] as const
        ).map(([word, value]) => (
          <div key={word} className="contents">
            <dt>{word}</dt>
            <dd className="truncate text-right text-ink">{value}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

const Switch = ({ word, on, set }: { word: string; on: boolean; set: (on: boolean) => void }) => (
  <label className="flex items-center gap-2 text-sm">
    <input type="checkbox" className="accent-blue" checked={on} onChange={(event) => set(event.target.checked)} />
    {word}
  </label>
);
