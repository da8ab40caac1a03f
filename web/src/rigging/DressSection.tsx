import { type Build, chainFrom, givenPart, type Outfit, outfitted, type RigPart } from '@varrup/core';
import { X } from 'lucide-react';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { change, useBuilding } from './build-store.ts';
import { Section } from './Section.tsx';

const outfitWords: Record<Outfit, string> = {
  biped: 'Find two legs, arms, trunk and head, and give them all that walks and poses need',
  quadruped: 'Find four legs, trunk, neck, head and tail, and give them all that walks and poses need',
};

/** What a chain can be, with what it then has. */
const kinds = [
  ['leg', 'A foot that is planted and rolls, a knee, and joint by joint'],
  ['arm', 'A hand that reaches, an elbow, and joint by joint'],
  ['tail', 'Two controls bend the whole chain, at its root and its tip'],
  ['trunk', 'Body, hips and chest, with a spine between'],
  ['head', 'Neck and head: the head keeps its heading'],
  ['look', 'It looks at something'],
  ['dial', 'A dial turns it: a jaw, a lid'],
] as const satisfies readonly (readonly [RigPart['kind'], string])[];

/** Says what the joints are the joints of; their controls follow from it. */
export function DressSection({ build }: { build: Build }) {
  const picked = useBuilding((b) => b.picked);
  const pairs = useBuilding((b) => b.pairs);
  const chain = picked === null ? [] : chainFrom(build, picked);
  const nameOf = (id: string) => build.joints.find((j) => j.id === id)?.name ?? id;
  return (
    <Section title="Dress" about="What a chain is gives it its controls, as large as the body is there.">
      <span className="flex gap-1">
        {(['biped', 'quadruped'] as const).map((outfit) => (
          <Hint key={outfit} text={outfitWords[outfit]}>
            <Button
              look="pill"
              disabled={build.joints.length === 0}
              onClick={() => change(`dress as a ${outfit}`, (b) => outfitted(b, outfit))}
            >
              {outfit}
            </Button>
          </Hint>
        ))}
      </span>
      {picked === null ? (
        <p className="text-sm text-graphite">Or pick the first joint of a chain, and say what it is.</p>
      ) : (
        <fieldset className="flex flex-wrap items-center gap-1">
          <legend className="mb-1 text-sm text-graphite">
            {chain.length === 1 ? nameOf(picked) : `${nameOf(picked)} to ${nameOf(chain[chain.length - 1])}`} is a
          </legend>
          {kinds.map(([kind, about]) => (
            <Hint key={kind} text={about}>
              <Button
                look="pill"
                onClick={() => change(`give it a ${kind}`, (b) => givenPart(b, kind, picked, { pairs }))}
              >
                {kind}
              </Button>
            </Hint>
          ))}
        </fieldset>
      )}
      {build.parts.length > 0 ? (
        <ul aria-label="What it is dressed with">
          {build.parts.map((part) => (
            <li key={`${part.kind} ${part.joints.join(' ')}`} className="flex h-6 items-center gap-1.5">
              <button
                type="button"
                className="min-w-0 grow truncate text-left hover:underline"
                onClick={() => useBuilding.setState({ picked: part.joints[0] })}
              >
                <b className="font-medium">
                  {'which' in part && part.which ? `${part.which} ${part.kind}` : part.kind}
                </b>{' '}
                <span className="text-graphite">
                  {nameOf(part.joints[0])}
                  {part.joints.length > 1 ? ` to ${nameOf(part.joints[part.joints.length - 1])}` : ''}
                </span>
              </button>
              <Button
                look="icon"
                aria-label={`no longer a ${part.kind}: ${nameOf(part.joints[0])}`}
                onClick={() => change('take a part off', (b) => ({ ...b, parts: b.parts.filter((p) => p !== part) }))}
              >
                <X size={14} />
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </Section>
  );
}
