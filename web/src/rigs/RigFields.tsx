import { type Aside, dropAside, type LibraryRig, type Member, type Shot } from '@varrup/core';
import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { newest, useLibrary } from './library.ts';
import { PlaceAsideDialog } from './PlaceAsideDialog.tsx';
import { TakeVersionDialog } from './TakeVersionDialog.tsx';

/** What a shot's link of a rig is: which version, whether a newer one is there, and what found no place in it. */
export function RigFields({ shot, member }: { shot: Shot; member: Extract<Member, { kind: 'rig' }> }) {
  const { data } = useLibrary();
  const rig = data?.find((r) => r.id === member.shape.rig);
  const [taking, setTaking] = useState<number | null>(null);
  const aside = shot.aside.values().filter((a) => a.rig === member.id);
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="float-left mb-1 w-full text-sm text-graphite">linked rig</legend>
      <p className="clear-left">
        <Link to="/rigs" className="underline">
          {rig?.name ?? member.shape.rig}
        </Link>
        , version {member.shape.version} ·{' '}
        <Link to={`/rigs/${member.shape.rig}/${member.shape.version}/build`} className="underline">
          build on it
        </Link>
      </p>
      {rig ? <Versions rig={rig} member={member} onTake={setTaking} /> : null}
      {aside.length > 0 ? <PutAside shot={shot} aside={aside} /> : null}
      {taking !== null && rig ? (
        <TakeVersionDialog member={member} rig={rig} version={taking} onClose={() => setTaking(null)} />
      ) : null}
    </fieldset>
  );
}

function Versions({
  rig,
  member,
  onTake,
}: {
  rig: LibraryRig;
  member: Extract<Member, { kind: 'rig' }>;
  onTake: (version: number) => void;
}) {
  const newer = newest(rig) > member.shape.version;
  const others = rig.versions.filter((v) => v.version !== member.shape.version);
  return (
    <>
      {newer ? (
        <p role="status" className="mt-1.5 rounded-lg bg-well px-2 py-1.5 text-sm">
          Version {newest(rig)} is there. {rig.versions[0].changes}
        </p>
      ) : null}
      <div className="mt-1.5 flex flex-wrap gap-1">
        {others.map(({ version }) => (
          <Button
            key={version}
            look={version === newest(rig) ? 'solid' : 'pill'}
            className="h-6! px-2! text-sm"
            onClick={() => onTake(version)}
          >
            take version {version}…
          </Button>
        ))}
      </div>
    </>
  );
}

/** Keys that found no place in the version of now. */
function PutAside({ shot, aside }: { shot: Shot; aside: readonly Aside[] }) {
  const run = useShot((s) => s.run);
  const [placing, setPlacing] = useState<Aside | null>(null);
  return (
    <div className="mt-2">
      <h3 className="text-sm text-graphite">put aside: no place for it in this version</h3>
      <ul>
        {aside.map((a) => (
          <li key={a.id} className="flex h-7 items-center gap-1">
            <span className="min-w-0 grow truncate" title={a.name}>
              {a.name}
              <span className="ml-1 text-sm text-graphite">{a.curve ? `${a.curve.keys.length} keys` : 'a value'}</span>
            </span>
            <Button
              look="icon"
              className="size-6!"
              aria-label={`Bring ${a.name} back onto another channel`}
              title="Bring back onto another channel"
              onClick={() => setPlacing(a)}
            >
              <Undo2 size={13} />
            </Button>
          </li>
        ))}
      </ul>
      <Button className="-ml-2 text-sm text-graphite" onClick={() => run(dropAside, { ids: aside.map((a) => a.id) })}>
        throw {aside.length === 1 ? 'it' : 'all of it'} away
      </Button>
      {placing ? <PlaceAsideDialog shot={shot} aside={placing} onClose={() => setPlacing(null)} /> : null}
    </div>
  );
}
