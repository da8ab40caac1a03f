import {
  addMember,
  isLocked,
  type Member,
  newId,
  newMember,
  removeMembers,
  reshapeMember,
  type Shot,
  type SkyLook,
  setSky,
  skiesOf,
  skyLooks,
} from '@varrup/core';
import { Lightbulb, Moon, Newspaper, Sun, Sunset } from 'lucide-react';
import type { ComponentType } from 'react';
import { HelpMark } from '../help/HelpMark.tsx';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Choice, Row } from '../ui/Choice.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { select } from '../view/selection.ts';
import { Cameras } from './Cameras.tsx';
import { Channels } from './Channels.tsx';

const signs: Record<SkyLook, ComponentType<{ size?: number }>> = { day: Sun, dusk: Sunset, night: Moon };

/** The light of the shot: its sky, the hour of its day, and its lamps. */
export function LightPanel({ shot }: { shot: Shot }) {
  const run = useShot((s) => s.run);
  const [sky, ...others] = skiesOf(shot);
  const lamps = shot.members.values().filter((m) => m.kind === 'light');
  const bringLamp = () => {
    const lamp = newMember(shot, { kind: 'light', name: 'Lamp', values: { 'move.y': 2, 'move.z': 1 } });
    run(addMember, { member: lamp });
    select([lamp.id]);
  };
  return (
    <div className="min-h-0 grow overflow-y-auto px-4 pb-3">
      <header className="flex items-center justify-between gap-2 pt-1.5">
        <h2 className="font-semibold">Light</h2>
        <HelpMark of="Light" />
      </header>
      <section aria-label="Sky" className="mt-1">
        <div className="flex flex-wrap gap-1">
          {(Object.keys(skyLooks) as SkyLook[]).map((look) => {
            const Sign = signs[look];
            return (
              <Button
                key={look}
                look="pill"
                title={sky ? `Make it ${look}: keys of the sky’s hour and haze go` : `Give the shot a sky at ${look}`}
                onClick={() => run(setSky, { look, id: newId() })}
              >
                <span className="inline-flex items-center gap-1.5">
                  <Sign size={14} />
                  {look}
                </span>
              </Button>
            );
          })}
          <Button
            look="pill"
            aria-pressed={!sky}
            title="Without a sky: light paper, as the desk is"
            onClick={() => sky && run(removeMembers, { ids: [sky.id] })}
          >
            <span className="inline-flex items-center gap-1.5">
              <Newspaper size={14} />
              paper
            </span>
          </Button>
        </div>
        {others.length > 0 ? (
          <p className="mt-1 text-sm text-graphite">
            {sky?.name} is the sky: of several the first one that is seen counts.
          </p>
        ) : null}
        {sky ? <Channels shot={shot} member={sky} ids={['hour', 'haze']} /> : null}
        {sky?.kind === 'sky' ? (
          <Choice
            label="ground"
            value={sky.shape.floor}
            options={[
              ['ground', 'to the horizon'],
              ['none', 'none: the set has its own'],
            ]}
            onChange={(floor) => run(reshapeMember, { id: sky.id, shape: { floor } })}
          />
        ) : null}
      </section>
      <section aria-label="Lamps" className="mt-3 border-t border-rule pt-2">
        {lamps.length === 0 ? <p className="text-graphite">No lamps in this shot.</p> : null}
        {lamps.map((lamp) => (
          <div key={lamp.id} className="mb-1">
            <button type="button" className="rounded font-medium hover:underline" onClick={() => select([lamp.id])}>
              {lamp.name}
            </button>
            <Channels shot={shot} member={lamp} ids={['brightness']} />
            <Beam lamp={lamp} disabled={isLocked(shot, lamp.id)} />
          </div>
        ))}
        <Button look="pill" className="mt-1" onClick={bringLamp}>
          <span className="inline-flex items-center gap-1.5">
            <Lightbulb size={14} />
            bring in a lamp
          </span>
        </Button>
      </section>
      <Cameras shot={shot} />
    </div>
  );
}

/** How a lamp shines. */
function Beam({ lamp, disabled }: { lamp: Member; disabled: boolean }) {
  const run = useShot((s) => s.run);
  if (lamp.kind !== 'light') return null;
  const { beam, spread, soft } = lamp.shape;
  const set = (shape: Readonly<Record<string, unknown>>) => run(reshapeMember, { id: lamp.id, shape });
  return (
    <fieldset disabled={disabled}>
      <Choice
        label="shines"
        value={beam}
        options={[
          ['round', 'all round'],
          ['cone', 'in a cone'],
        ]}
        onChange={(next) => set({ beam: next })}
      />
      {beam === 'cone' ? (
        <>
          <Row label="spread">
            <NumberField
              label="spread"
              value={spread}
              unit="°"
              step={1}
              digits={1}
              min={1}
              max={85}
              onChange={(v) => set({ spread: v })}
            />
          </Row>
          <Row label="soft">
            <NumberField
              label="soft"
              value={soft}
              step={0.01}
              digits={2}
              min={0}
              max={1}
              onChange={(v) => set({ soft: v })}
            />
          </Row>
        </>
      ) : null}
    </fieldset>
  );
}
