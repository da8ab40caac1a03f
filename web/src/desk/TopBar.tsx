import { Film, Moon, Redo2, Sun, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link, NavLink, useParams } from 'react-router';
import { commandOf, shortcutOf } from '../commands/list.ts';
import { useShot } from '../shot/shot-store.ts';
import { Button } from '../ui/Button.tsx';
import { Hint } from '../ui/Hint.tsx';
import { themeNow, useThemeChange } from '../ui/theme.ts';
import { RoomNote } from './RoomNote.tsx';
import { deskOf, desks } from './registry.ts';
import { SaveNote } from './SaveNote.tsx';

/** Where one is, the desks in the order of the work, and how saving stands. */
export function TopBar() {
  const shot = useShot((s) => s.shot);
  const production = useShot((s) => s.production);
  const here = deskOf(useParams().desk)?.id;
  const [theme, setTheme] = useState(themeNow());
  useThemeChange(() => setTheme(themeNow()));
  return (
    <header className="flex h-10 shrink-0 items-center gap-3 border-b border-rule bg-card px-3">
      <Link to="/" className="flex items-center gap-2 font-bold" aria-label="Varrup: all productions">
        <span className="h-1.5 w-4 rounded-full bg-ink" aria-hidden />
        Varrup
      </Link>
      <span className="flex min-w-0 max-w-80 items-baseline gap-2">
        <span className="truncate text-graphite">{production?.name}</span>
        <span className="truncate font-semibold" title={shot?.name}>
          {shot?.name}
        </span>
      </span>
      <nav aria-label="Desks" className="mx-auto flex h-full items-end gap-1">
        {shot
          ? desks.map(({ id, word, about }) => (
              <Hint key={id} text={about}>
                <NavLink
                  to={`/shots/${shot.id}/${id}`}
                  aria-current={here === id ? 'page' : undefined}
                  className={`flex h-8 items-center px-3 ${here === id ? 'rounded-t-lg border border-b-0 border-rule bg-paper font-semibold' : 'text-graphite hover:text-ink'}`}
                >
                  {word}
                </NavLink>
              </Hint>
            ))
          : null}
      </nav>
      <RoomNote />
      <SaveNote />
      <HistoryButtons />
      <Hint text="Movie, picture or contact sheet" keys={shortcutOf('shot.movie')}>
        <Button
          look="icon"
          aria-label="Make a movie, a picture or a contact sheet"
          onClick={() => commandOf('shot.movie').run()}
        >
          <Film size={16} />
        </Button>
      </Hint>
      <Hint text={theme === 'night' ? 'Lamp on' : 'Lamp off'} keys={shortcutOf('view.theme')}>
        <Button
          look="icon"
          aria-label={theme === 'night' ? 'Light theme' : 'Night theme'}
          onClick={() => commandOf('view.theme').run()}
        >
          {theme === 'night' ? <Sun size={16} /> : <Moon size={16} />}
        </Button>
      </Hint>
      <button
        type="button"
        onClick={() => commandOf('shot.palette').run()}
        className="flex h-6 items-center gap-4 rounded-full border border-rule bg-paper px-3 text-sm text-graphite hover:bg-well"
      >
        find a command <kbd className="tabular">{shortcutOf('shot.palette')}</kbd>
      </button>
    </header>
  );
}

function HistoryButtons() {
  const past = useShot((s) => s.history.past.at(-1));
  const future = useShot((s) => s.history.future.at(-1));
  return (
    <span className="flex">
      <Hint text={past ? `Undo: ${past.label}` : 'Nothing to undo'} keys={shortcutOf('shot.undo')}>
        <Button
          look="icon"
          aria-label={past ? `Undo: ${past.label}` : 'Undo'}
          aria-disabled={!past}
          onClick={() => useShot.getState().undo()}
          className={past ? '' : 'opacity-40'}
        >
          <Undo2 size={16} />
        </Button>
      </Hint>
      <Hint text={future ? `Redo: ${future.label}` : 'Nothing to redo'} keys={shortcutOf('shot.redo')}>
        <Button
          look="icon"
          aria-label={future ? `Redo: ${future.label}` : 'Redo'}
          aria-disabled={!future}
          onClick={() => useShot.getState().redo()}
          className={future ? '' : 'opacity-40'}
        >
          <Redo2 size={16} />
        </Button>
      </Hint>
    </span>
  );
}
