import { type LibraryRig, type Member, takeVersion, type VersionChange, versionChange } from '@varrup/core';
import { useEffect, useState } from 'react';
import { fetchRig } from '../shot/linked.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';

/** Says what another version of a rig brings and what it has no place for, and takes it. */
export function TakeVersionDialog({
  member,
  rig,
  version,
  onClose,
}: {
  member: Extract<Member, { kind: 'rig' }>;
  rig: LibraryRig;
  version: number;
  onClose: () => void;
}) {
  const [change, setChange] = useState<VersionChange | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    let here = true;
    fetchRig({ rig: rig.id, version }).then(
      (definition) => {
        useShot.getState().haveAtHand([definition]);
        const { committed } = useShot.getState();
        if (here && committed) setChange(versionChange(committed, member.id, version));
      },
      (error) => here && setFailure((error as Error).message),
    );
    return () => {
      here = false;
    };
  }, [member.id, rig.id, version]);
  const words = rig.versions.find((v) => v.version === version)?.changes;
  return (
    <Dialog open onClose={onClose} title={`${member.name}: take version ${version}`} about={words}>
      {failure ? <p role="alert">{failure} Nothing has been changed.</p> : null}
      {!change && !failure ? <p role="status">Looking what fits…</p> : null}
      {change ? (
        <>
          <List title="comes in" names={change.fresh} none="Nothing to pose with that was not there." />
          {change.gone.length > 0 ? <List title="goes" names={change.gone} none="" /> : null}
          <List
            title="of what you have made, put aside and there to be brought back"
            names={change.aside.map(
              (a) =>
                `${a.name}${a.curve ? `, ${a.curve.keys.length} ${a.curve.keys.length === 1 ? 'key' : 'keys'}` : ''}`,
            )}
            none="Nothing: all you have made fits."
          />
          {change.back.length > 0 ? (
            <List title="finds its place again" names={change.back.map((a) => a.name)} none="" />
          ) : null}
          <div className="mt-4 flex justify-end gap-2">
            <Button look="pill" onClick={onClose}>
              keep version {member.shape.version}
            </Button>
            <Button
              look="solid"
              onClick={() => {
                useShot.getState().run(takeVersion, { id: member.id, version });
                onClose();
              }}
            >
              take version {version}
            </Button>
          </div>
        </>
      ) : null}
    </Dialog>
  );
}

function List({ title, names, none }: { title: string; names: readonly string[]; none: string }) {
  return (
    <section className="mt-2" aria-label={title}>
      <h3 className="text-sm text-graphite">{title}</h3>
      {names.length === 0 ? <p>{none}</p> : null}
      <ul className="max-h-40 overflow-y-auto">
        {names.map((name) => (
          <li key={name}>{name}</li>
        ))}
      </ul>
    </section>
  );
}
