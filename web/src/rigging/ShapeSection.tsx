import { addShape, type Build, boxOf, finer, madeWhole, removeShape, shapesOf } from '@varrup/core';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Row } from '../ui/Choice.tsx';
import { NameDialog } from '../ui/Dialog.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { change, useBuilding } from './build-store.ts';
import { Section } from './Section.tsx';

const does = [
  ['pull', 'Draw it along with the hand'],
  ['turn', 'Turn it as one looks at it, by going sideways'],
  ['size', 'Larger to the right and up, smaller to the left and down'],
  ['smooth', 'Even it out, the further the hand goes'],
] as const;

/** Shaping the body: with soft hands, as it is or as a shape with a dial of its own. */
export function ShapeSection({ build }: { build: Build }) {
  const { tool, hand, shape } = useBuilding();
  const [naming, setNaming] = useState(false);
  const set = (next: Partial<typeof hand>) => useBuilding.setState({ hand: { ...hand, ...next } });
  const { min, max } = boxOf(build);
  const shapes = shapesOf(build);
  const showShape = (name: string | null) =>
    useBuilding.setState({ shape: name, tool: 'shape', tints: 'none', trying: null });
  return (
    <Section title="Shape">
      {tool === 'shape' ? (
        <>
          <span className="flex gap-1">
            {does.map(([value, about]) => (
              <Hint key={value} text={about}>
                <Button look="pill" aria-pressed={hand.does === value} onClick={() => set({ does: value })}>
                  {value}
                </Button>
              </Hint>
            ))}
          </span>
          <Row label="reach">
            <NumberField
              label="reach of the hand"
              value={hand.reach}
              unit="m"
              step={0.01}
              digits={3}
              min={0.001}
              max={Math.max(1, 2 * (max[1] - min[1]))}
              onChange={(reach) => set({ reach })}
            />
          </Row>
        </>
      ) : null}
      <div className="flex flex-wrap gap-1">
        <Hint text="Throw away the right half and put the mirror image of the left one there, joints too">
          <Button look="pill" onClick={() => change('make a whole of the half', madeWhole)}>
            whole of a half
          </Button>
        </Hint>
        <Hint text="Four times as many points to shape, in the same form">
          <Button
            look="pill"
            onClick={() => change('make it finer', (b) => b.meshes.reduce((now, mesh) => finer(now, mesh.id), b))}
          >
            finer
          </Button>
        </Hint>
        <Hint text="A shape is how the body may differ from itself: it gets a dial from 0 to 1, and shapes add up">
          <Button look="pill" onClick={() => setNaming(true)}>
            new shape…
          </Button>
        </Hint>
      </div>
      {shapes.length > 0 ? (
        <ul aria-label="Shapes">
          {[null, ...shapes].map((name) => (
            <li key={name ?? ''} className="flex h-7 items-center gap-1">
              <button
                type="button"
                aria-pressed={shape === name}
                className="h-6 min-w-0 grow truncate rounded-md px-2 text-left hover:bg-well aria-pressed:bg-blue-wash aria-pressed:text-blue"
                onClick={() => showShape(name)}
              >
                {name ?? 'the body as it is'}
              </button>
              {name === null ? null : (
                <Button
                  look="icon"
                  aria-label={`take the shape ${name} away`}
                  onClick={() => change('take a shape away', (b) => removeShape(b, name))}
                >
                  <X size={14} />
                </Button>
              )}
            </li>
          ))}
        </ul>
      ) : null}
      {naming ? (
        <NameDialog
          title="A new shape"
          label="what its dial is called"
          action="shape it"
          onName={(name) => {
            change('a new shape', (b) => addShape(b, name));
            showShape(name);
          }}
          onClose={() => setNaming(false)}
        />
      ) : null}
    </Section>
  );
}
