import { Dialog } from '../ui/Dialog.tsx';
import { useQuestion } from '../view/questions.ts';
import { bringRigIn, newest, useLibrary } from './library.ts';
import { RigPicture } from './RigCard.tsx';

/** Brings a rig of the library into the shot, in its newest version or an older one. */
export function BringRigDialog() {
  const open = useQuestion((q) => q.open === 'rig');
  const ask = useQuestion((q) => q.ask);
  const { data: rigs, isPending, isError, error } = useLibrary();
  if (!open) return null;
  const bring = (rig: string, version: number) => {
    ask(null);
    void bringRigIn({ rig, version });
  };
  return (
    <Dialog
      open
      wide
      onClose={() => ask(null)}
      title="Bring in a rig"
      about="The shot links it: it stays as it is in the library, and a newer version is taken when you say so."
    >
      {isPending ? <p role="status">Fetching the rigs…</p> : null}
      {isError ? <p role="alert">{error.message}</p> : null}
      <ul className="grid grid-cols-4 gap-2">
        {rigs?.map((rig) => (
          <li key={rig.id} className="overflow-hidden rounded-xl border border-rule bg-paper">
            <button
              type="button"
              className="block w-full text-left hover:bg-well focus-visible:outline-2"
              onClick={() => bring(rig.id, newest(rig))}
              aria-label={`Bring in ${rig.name}`}
            >
              <RigPicture link={{ rig: rig.id, version: newest(rig) }} className="aspect-square w-full" />
              <span className="block truncate px-2 pt-1.5 font-medium">{rig.name}</span>
            </button>
            <span className="block px-2 pb-1.5 text-sm text-graphite">
              {rig.versions.length === 1 ? (
                'version 1'
              ) : (
                <>
                  version {newest(rig)}, or{' '}
                  {rig.versions.slice(1).map(({ version }) => (
                    <button
                      key={version}
                      type="button"
                      className="underline hover:text-ink"
                      aria-label={`Bring in ${rig.name}, version ${version}`}
                      onClick={() => bring(rig.id, version)}
                    >
                      {version}
                    </button>
                  ))}
                </>
              )}
            </span>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
