import { useQueryClient } from '@tanstack/react-query';
import type { LibraryRig } from '@varrup/core';
import { format } from 'date-fns';
import { useEffect, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { rigOfFiles } from '../rigging/new-rig.ts';
import { Button } from '../ui/Button.tsx';
import { newest, useLibrary } from './library.ts';
import { RigPicture } from './RigCard.tsx';

/** The rig library: every rig with its versions, what changed, and the shots that link it. */
export function RigLibrary() {
  const { data: rigs, isPending, isError, error, refetch } = useLibrary();
  useEffect(() => {
    document.title = 'Rigs – Varrup';
  }, []);
  return (
    <div className="flex h-full flex-col">
      <header className="flex h-10 shrink-0 items-center gap-6 border-b border-rule bg-card px-4">
        <Link to="/" className="flex items-center gap-2 font-bold">
          <span className="h-1.5 w-4 rounded-full bg-ink" aria-hidden />
          Varrup
        </Link>
        <nav className="flex gap-4" aria-label="Pages">
          <Link to="/" className="text-graphite hover:text-ink">
            productions
          </Link>
          <span className="font-semibold" aria-current="page">
            rigs
          </span>
        </nav>
      </header>
      <main className="min-h-0 grow overflow-y-auto px-8 py-6">
        <div className="flex max-w-2xl items-center gap-3">
          <h1 className="grow text-[17px] font-semibold">Rigs</h1>
          <TakeModel />
        </div>
        <p className="mt-1 max-w-2xl text-graphite">
          Shots link these at a version and cannot change them. In a shot, <b className="font-medium">bring in…</b> and
          then <b className="font-medium">a rig</b> links one, <b className="font-medium">a file</b> makes one of glTF
          or BVH; forms that are picked become one by <b className="font-medium">a rig of them</b>.{' '}
          <b className="font-medium">build on</b> puts joints in, weighs and dresses a rig, and keeps it as a new
          version.
        </p>
        {isPending ? (
          <p role="status" className="mt-6 text-graphite">
            Fetching the rigs…
          </p>
        ) : null}
        {isError ? (
          <p role="alert" className="mt-6">
            {error.message}{' '}
            <Button look="pill" onClick={() => void refetch()}>
              try again
            </Button>
          </p>
        ) : null}
        {rigs?.length === 0 ? <p className="mt-6">No rigs here.</p> : null}
        <ul className="mt-5 grid grid-cols-[repeat(auto-fill,minmax(340px,1fr))] gap-4">
          {rigs?.map((rig) => (
            <li key={rig.id}>
              <RigEntry rig={rig} />
            </li>
          ))}
        </ul>
      </main>
    </div>
  );
}

/** Brings the body of a file in, to be built on. */
function TakeModel() {
  const [state, setState] = useState<'idle' | 'reading'>('idle');
  const navigate = useNavigate();
  const queries = useQueryClient();
  const take = async (files: readonly File[]) => {
    if (files.length === 0) return;
    setState('reading');
    try {
      const link = await rigOfFiles(files);
      await queries.invalidateQueries({ queryKey: ['rigs'] });
      void navigate(`/rigs/${link.rig}/${link.version}/build`);
    } catch (error) {
      toast.error((error as Error).message);
    } finally {
      setState('idle');
    }
  };
  return (
    <>
      {state === 'reading' ? <span role="status">Reading the file…</span> : null}
      <label className="flex h-7 cursor-pointer items-center rounded-full border border-rule bg-card px-3 hover:bg-well focus-within:outline-2 focus-within:outline-blue">
        a body from a file…
        <input
          type="file"
          multiple
          accept=".glb,.gltf,.bin,.bvh,.png,.jpg,.jpeg"
          className="sr-only"
          disabled={state === 'reading'}
          onChange={(event) => {
            void take([...(event.target.files ?? [])]);
            event.target.value = '';
          }}
        />
      </label>
    </>
  );
}

function RigEntry({ rig }: { rig: LibraryRig }) {
  return (
    <article className="flex h-full overflow-hidden rounded-xl border border-rule bg-card" aria-label={rig.name}>
      <div className="shrink-0 bg-well">
        <RigPicture link={{ rig: rig.id, version: newest(rig) }} className="size-36" />
      </div>
      <div className="min-w-0 grow p-3">
        <div className="flex items-center gap-2">
          <h2 className="min-w-0 grow truncate font-semibold">{rig.name}</h2>
          <Link
            to={`/rigs/${rig.id}/${newest(rig)}/build`}
            aria-label={`Build on ${rig.name}`}
            className="shrink-0 rounded-full border border-rule px-3 hover:bg-well"
          >
            build on
          </Link>
        </div>
        <ul aria-label={`Versions of ${rig.name}`}>
          {rig.versions.map(({ version, changes, madeAt }) => (
            <li key={version} className="mt-0.5 text-sm">
              <span className="font-medium">version {version}</span>{' '}
              <span className="text-graphite">· {format(new Date(madeAt), 'd MMM yyyy')}</span>
              <p>{changes}</p>
            </li>
          ))}
        </ul>
        <p className="mt-1.5 text-sm text-graphite">
          {rig.poses === 0
            ? 'no poses in its book'
            : rig.poses === 1
              ? 'one pose in its book'
              : `${rig.poses} poses in its book`}
        </p>
        {rig.usedIn.length > 0 ? (
          <ul className="mt-1 text-sm" aria-label={`Shots that link ${rig.name}`}>
            {rig.usedIn.map((use) => (
              <li key={use.shot} className="truncate">
                <Link to={`/shots/${use.shot}`} className="underline">
                  {use.name}
                </Link>{' '}
                <span className="text-graphite">
                  {use.production} · version {use.versions.join(', ')}
                </span>
              </li>
            ))}
          </ul>
        ) : (
          <p className="mt-1 text-sm text-graphite">no shot links it yet</p>
        )}
      </div>
    </article>
  );
}
