import { changePanel, type Panel, type PanelFrame, type PanelRun, panelAt, type Shot, wholePanel } from '@varrup/core';
import { Camera, ImagePlus, ImageUp, MapPin, SquareArrowOutUpRight, X } from 'lucide-react';
import { Link } from 'react-router';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Part, Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Words } from '../ui/Words.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { runsOf } from './board-view.ts';
import { choosePicture } from './panel-media.ts';

/** The panel one is at: what happens, what is said, how long, what lies under it, and what its camera sees. */
export function PanelFields({ shot }: { shot: Shot }) {
  const settled = usePlayhead((p) => p.settled);
  const run = panelAt(runsOf(shot), settled);
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <h2 className="pt-1.5 font-semibold">{run ? `Panel ${run.index + 1}` : 'Panel'}</h2>
      {run ? (
        <Fields key={run.panel.id} shot={shot} run={run} />
      ) : (
        <p className="mt-2 text-graphite">There is no panel yet: put one on the board.</p>
      )}
    </div>
  );
}

function Fields({ shot, run: { panel, first, last } }: { shot: Shot; run: PanelRun }) {
  const run = useShot((s) => s.run);
  const change = (part: Partial<Panel>) => run(changePanel, { id: panel.id, change: part });
  return (
    <>
      <div className="mt-1 flex flex-col gap-1.5">
        <Words
          label="Name of the panel"
          value={panel.name}
          most={80}
          placeholder="name"
          onChange={(name) => change({ name })}
        />
        <Words
          label="What happens"
          value={panel.happens}
          most={2_000}
          lines={3}
          placeholder="What happens"
          onChange={(happens) => change({ happens })}
        />
        <Words
          label="What is said"
          value={panel.says}
          most={2_000}
          lines={2}
          placeholder="“What is said”"
          onChange={(says) => change({ says })}
        />
        <Row label="stands">
          <NumberField
            label="How many frames it stands"
            value={panel.frames}
            step={1}
            digits={0}
            whole
            min={1}
            max={20_000}
            onChange={(frames) => change({ frames })}
          />
          <span className="tabular shrink-0 text-sm text-graphite">
            {first}–{last} · {(panel.frames / shot.rate).toFixed(2)} s
          </span>
        </Row>
      </div>
      <Part title="under the drawing">
        <span className="flex flex-wrap gap-1">
          <Button look="pill" onClick={() => void choosePicture(panel.id)} title="A picture from a file: PNG or JPEG">
            <span className="flex items-center gap-1.5">
              <ImageUp size={14} /> a picture…
            </span>
          </Button>
          <Hint text={commandOf('panel.still').label} keys={shortcutOf('panel.still')}>
            <Button look="pill" onClick={() => commandOf('panel.still').run()}>
              <span className="flex items-center gap-1.5">
                <ImagePlus size={14} /> a still of the stage
              </span>
            </Button>
          </Hint>
          {panel.picture === null ? null : (
            <Button look="pill" onClick={() => change({ picture: null })}>
              <span className="flex items-center gap-1.5">
                <X size={14} /> none
              </span>
            </Button>
          )}
        </span>
      </Part>
      <PanelCamera panel={panel} change={change} />
      <Part title="in the production">
        <span className="flex flex-wrap gap-1">
          <Hint text={commandOf('panel.mark').label} keys={shortcutOf('panel.mark')}>
            <Button look="pill" onClick={() => commandOf('panel.mark').run()}>
              <span className="flex items-center gap-1.5">
                <MapPin size={14} /> marker in the sheet
              </span>
            </Button>
          </Hint>
          {panel.shot ? null : (
            <Hint text={commandOf('panel.toShot').label}>
              <Button look="pill" onClick={() => commandOf('panel.toShot').run()}>
                <span className="flex items-center gap-1.5">
                  <SquareArrowOutUpRight size={14} /> becomes a shot
                </span>
              </Button>
            </Hint>
          )}
        </span>
        {panel.shot ? <ItsShot panel={panel} change={change} /> : null}
      </Part>
    </>
  );
}

/** The shot a panel has become. */
function ItsShot({ panel, change }: { panel: Panel; change: (part: Partial<Panel>) => void }) {
  const { id, follows } = panel.shot!;
  return (
    <>
      <p>
        It has become{' '}
        <Link to={`/shots/${id}`} className="text-blue underline">
          a shot of its own
        </Link>
        .
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={follows}
          onChange={(event) => change({ shot: { id, follows: event.target.checked } })}
        />
        it is as long as the panel
      </label>
      <span className="flex gap-1">
        <Button
          look="pill"
          onClick={() => change({ shot: null })}
          title="The shot stays; the panel knows nothing of it any more"
        >
          let it go
        </Button>
      </span>
    </>
  );
}

const PARTS = [
  ['x', 'x'],
  ['y', 'y'],
  ['wide', 'width'],
] as const;

/** What the camera sees where the panel begins, and where it goes until it ends: in hundredths of the panel's width. */
function PanelCamera({ panel, change }: { panel: Panel; change: (part: Partial<Panel>) => void }) {
  const { camera } = panel;
  const ends = camera ? (['from', ...(camera.to ? (['to'] as const) : [])] as const) : [];
  return (
    <Part title="camera">
      {camera ? null : (
        <Button
          look="pill"
          className="self-start"
          onClick={() => change({ camera: { from: { ...wholePanel, wide: 0.8 }, to: null } })}
        >
          <span className="flex items-center gap-1.5">
            <Camera size={14} /> frame it
          </span>
        </Button>
      )}
      {ends.map((end) => (
        <Row key={end} label={end === 'from' ? 'begins' : 'ends'}>
          {PARTS.map(([part, word]) => (
            <NumberField
              key={part}
              label={`Camera ${end === 'from' ? 'begins' : 'ends'}: ${word}`}
              value={camera![end]![part] * 100}
              step={1}
              digits={1}
              min={part === 'wide' ? 2 : -100}
              max={part === 'wide' ? 300 : 200}
              onChange={(value) =>
                change({ camera: { ...camera!, [end]: { ...(camera![end] as PanelFrame), [part]: value / 100 } } })
              }
            />
          ))}
        </Row>
      ))}
      {camera ? (
        <span className="flex gap-1">
          {camera.to ? (
            <Button look="pill" onClick={() => change({ camera: { ...camera, to: null } })}>
              stands still
            </Button>
          ) : (
            <Button
              look="pill"
              onClick={() => change({ camera: { ...camera, to: { ...camera.from, wide: camera.from.wide * 0.6 } } })}
            >
              moves
            </Button>
          )}
          <Button look="pill" onClick={() => change({ camera: null })}>
            no camera
          </Button>
        </span>
      ) : null}
    </Part>
  );
}
