import {
  type Build,
  boxOf,
  centred,
  evenOut,
  finishes,
  paintPart,
  type RigMesh,
  sized,
  squared,
  stiffen,
  stiffened,
  stockMaterials,
  stood,
  turnedLeft,
  turnedUp,
  withoutJoints,
} from '@varrup/core';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { Row } from '../ui/Choice.tsx';
import { Hint } from '../ui/Hint.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { change, stopWeighing, useBuilding, weigh } from './build-store.ts';
import { makePartOf } from './part-material.ts';
import { Section } from './Section.tsx';

/** A body of more parts than this is a stand-in of boxes or a machine, as a rule. */
const MANY = 40;

/** How the body stands, and how its parts hang on the joints. */
export function BodySection({ build }: { build: Build }) {
  const weighing = useBuilding((b) => b.weighing);
  const tints = useBuilding((b) => b.tints);
  const picked = useBuilding((b) => b.picked);
  const { min, max } = boxOf(build);
  const height = max[1] - min[1];
  const noJoints = build.joints.length === 0;
  return (
    <Section title="Body" about="It faces you in the view from the front, and stands on the floor.">
      <Row label="height">
        <NumberField
          label="height of the body"
          value={Number.isFinite(height) ? height : 0}
          unit="m"
          step={0.05}
          digits={2}
          min={0.001}
          max={1000}
          onChange={(to) => change('size the body', (b) => sized(b, to))}
        />
      </Row>
      <div className="flex flex-wrap gap-1">
        <Hint text="Face it to the front, in the middle and on the floor, by what it has on both sides">
          <Button look="pill" onClick={() => change('put it square', squared)}>
            square
          </Button>
        </Hint>
        <Hint text="Turn it to its left by a quarter, until it faces the front">
          <Button look="pill" onClick={() => change('turn the body', turnedLeft)}>
            turn
          </Button>
        </Hint>
        <Hint text="Set it up by a quarter, where it lies on its back">
          <Button look="pill" onClick={() => change('set the body up', turnedUp)}>
            set up
          </Button>
        </Hint>
        <Hint text="Put its middle from side to side where the mirror is">
          <Button look="pill" onClick={() => change('put it in the middle', centred)}>
            centre
          </Button>
        </Hint>
        <Hint text="Stand it on the floor">
          <Button look="pill" onClick={() => change('stand on the floor', stood)}>
            stand
          </Button>
        </Hint>
        <Hint text="Make the right joints mirror images of the left ones, where they nearly are">
          <Button look="pill" onClick={() => change('even out the sides', (b) => evenOut(b, 0.02 * height))}>
            even sides
          </Button>
        </Hint>
        <Hint text="Take all its joints away, to put in one's own">
          <Button
            look="pill"
            disabled={noJoints}
            onClick={() => {
              change('take all joints away', withoutJoints);
              useBuilding.setState({ tool: 'press', tints: 'none' });
            }}
          >
            no joints
          </Button>
        </Hint>
      </div>
      <h3 className="mt-2 font-medium">How it hangs on its joints</h3>
      {weighing === null ? (
        <div className="flex flex-wrap gap-1">
          <Hint text="Weigh the body: softly by the joints it sees through its inside, and not across a gap">
            <Button look="pill" disabled={noJoints} onClick={() => void weigh(build.meshes.map((m) => m.id))}>
              compute weights
            </Button>
          </Hint>
          <Hint text="Hang each part of it wholly on the nearest joint, as boxes and machines are moved">
            <Button look="pill" disabled={noJoints} onClick={() => change('hang parts stiffly', stiffened)}>
              all stiff
            </Button>
          </Hint>
        </div>
      ) : (
        <div className="flex items-center gap-2" role="status">
          <progress value={weighing} max={1} aria-label="weights" className="min-w-0 grow accent-blue" />
          <span className="tabular text-sm">{Math.round(weighing * 100)} %</span>
          <Button look="pill" onClick={stopWeighing}>
            stop
          </Button>
        </div>
      )}
      <fieldset className="flex items-center gap-1">
        <legend className="sr-only">tints</legend>
        <span className="w-14 shrink-0 text-graphite">tints</span>
        {(
          [
            ['none', 'off', 'The body in its own colours'],
            ['all', 'all', 'Each joint in a tint of its own'],
            ['picked', 'picked', 'How strongly it hangs on the picked joint, from paper over ochre to vermilion'],
          ] as const
        ).map(([value, word, about]) => (
          <Hint key={value} text={about}>
            <Button look="pill" aria-pressed={tints === value} onClick={() => useBuilding.setState({ tints: value })}>
              {word}
            </Button>
          </Hint>
        ))}
      </fieldset>
      <details open={build.meshes.length <= MANY && build.meshes.length > 1}>
        <summary className="cursor-pointer text-graphite">
          {build.meshes.length === 1 ? 'one part' : `${build.meshes.length} parts`}
        </summary>
        <ul className="mt-1 max-h-48 overflow-y-auto">
          {build.meshes.map((mesh) => (
            <li key={mesh.id} className="flex h-6 items-center gap-1.5">
              <PartColour mesh={mesh} />
              <span className="min-w-0 grow truncate" title={mesh.id}>
                {mesh.id}
              </span>
              <select
                aria-label={`${mesh.id} is of`}
                title="What it is made of"
                value={mesh.material ? '' : mesh.finish}
                onChange={(event) => {
                  const stock = stockMaterials.find((s) => s.name === event.target.value);
                  if (stock) void makePartOf(mesh.id, stock);
                  else {
                    const finish = event.target.value as RigMesh['finish'];
                    change('give a part a finish', (b) => paintPart(b, mesh.id, { finish }));
                  }
                }}
                className="h-6 w-15 rounded-md border border-rule bg-paper px-1"
              >
                {mesh.material ? (
                  <option value="" disabled>
                    its own
                  </option>
                ) : null}
                {finishes.map((finish) => (
                  <option key={finish} value={finish}>
                    {finish}
                  </option>
                ))}
                <optgroup label="as in the house">
                  {stockMaterials.map(({ name }) => (
                    <option key={name} value={name}>
                      {name}
                    </option>
                  ))}
                </optgroup>
              </select>
              <select
                aria-label={`${mesh.id} hangs on`}
                value={mesh.skin.kind === 'rigid' ? mesh.skin.joint : ''}
                onChange={(event) => {
                  const joint = event.target.value;
                  if (joint === '') void weigh([mesh.id]);
                  else change('hang a part', (b) => stiffen(b, mesh.id, joint));
                }}
                className="h-6 w-22 rounded-md border border-rule bg-paper px-1"
              >
                <option value="">soft</option>
                {noJoints ? <option value="none">nothing yet</option> : null}
                {build.joints.map((j) => (
                  <option key={j.id} value={j.id}>
                    {j.name}
                  </option>
                ))}
              </select>
            </li>
          ))}
        </ul>
      </details>
      {picked === null && tints === 'picked' ? (
        <p className="text-sm text-graphite">Pick a joint to see its weights.</p>
      ) : null}
    </Section>
  );
}

/** The colour of a part: picked with the system's own chooser, one step when it is done. */
function PartColour({ mesh }: { mesh: RigMesh }) {
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <input
      type="color"
      aria-label={`colour of ${mesh.id}`}
      value={chosen ?? mesh.colour}
      onChange={(event) => setChosen(event.target.value)}
      onBlur={() => {
        if (chosen !== null && chosen !== mesh.colour)
          change('give a part a colour', (b) => paintPart(b, mesh.id, { colour: chosen }));
        setChosen(null);
      }}
      className="h-4 w-5 shrink-0 rounded border border-rule bg-transparent p-0"
    />
  );
}
