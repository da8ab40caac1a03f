import { Link, useParams } from 'react-router';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { Button } from '../ui/Button.tsx';
import { type Desk, FIRST_DESK } from './registry.ts';

/** A desk that is not built yet says what it will be for, and what can be done already. */
export function Unbuilt({ desk }: { desk: Desk | undefined }) {
  const { id } = useParams();
  const already = desk?.already;
  return (
    <section
      aria-label={desk ? `The desk ${desk.word}` : 'No desk'}
      className="absolute inset-0 z-20 grid place-items-center bg-paper"
    >
      <div className="max-w-md text-center">
        <h2 className="text-lg font-semibold">{desk ? desk.word : 'There is no desk of that name'}</h2>
        {desk ? <p className="mt-2">{desk.about}</p> : null}
        {desk ? <p className="mt-1 text-graphite">It is not built yet. {already?.text}</p> : null}
        <div className="mt-4 flex items-center justify-center gap-3">
          {already?.command !== undefined ? (
            <Button look="pill" onClick={() => commandOf(already.command ?? '').run()}>
              {commandOf(already.command).label}
              <kbd className="tabular ml-2 text-sm text-graphite">{shortcutOf(already.command)}</kbd>
            </Button>
          ) : null}
          <Link to={`/shots/${id}/${FIRST_DESK}`} className="text-blue underline">
            To the desk Animate
          </Link>
        </div>
      </div>
    </section>
  );
}
