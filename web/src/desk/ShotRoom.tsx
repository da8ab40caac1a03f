import { useEffect } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { followPanels } from '../board/become-shots.ts';
import { watchShot } from '../checks/findings.ts';
import { useShortcuts } from '../commands/shortcuts.ts';
import { followPanels as followWhatIs } from '../help/what-is-this.ts';
import { HereMenu } from '../menus/HereMenu.tsx';
import { followCompared } from '../review/compare.ts';
import { useLooked } from '../review/looked.ts';
import { MeetingDialog } from '../shot/MeetingDialog.tsx';
import { useShot } from '../shot/shot-store.ts';
import { player } from '../sound/player.ts';
import { useTable } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { lookAtShot } from '../view/opening.ts';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { useSelection } from '../view/selection.ts';
import { followViews } from '../view/shot-views.ts';
import './commands.ts';
import { DeskLayout } from './DeskLayout.tsx';
import { Dialogs } from './dialogs.tsx';
import { followGoing } from './going.ts';
import { useOwnPlaces } from './own-places.ts';
import { deskOf } from './registry.ts';
import { TopBar } from './TopBar.tsx';
import { useCardPicture } from './use-card-picture.ts';

/** Has a shot made of the last state of one that can be read, and goes there. */
async function openMended(id: string): Promise<void> {
  try {
    location.assign(`/shots/${await api.mend(id)}`);
  } catch (error) {
    toast.error((error as Error).message);
  }
}

/** Opens a shot for as long as one is in it, on whichever desk, and shows it as it was looked at last. */
function useOpened(id: string): void {
  useEffect(() => {
    void useShot
      .getState()
      .open(id)
      .then(() => {
        const { shot } = useShot.getState();
        if (shot) lookAtShot(shot);
      });
    return () => {
      usePlayhead.getState().stop();
      useQuestion.getState().ask(null);
      useTable.getState().leave();
      useShot.getState().close();
    };
  }, [id]);
}

/** What goes on as long as a shot is open. */
function useFollowing(): void {
  const navigate = useNavigate();
  useEffect(() => followGoing(navigate), [navigate]);
  useEffect(() => followViews(), []);
  useEffect(
    () => useSelection.subscribe(({ picked }, old) => picked !== old.picked && useShot.getState().tellPicked(picked)),
    [],
  );
  useEffect(() => followCompared(), []);
  useEffect(() => watchShot(), []);
  useEffect(() => player.follow(), []);
  useEffect(() => followWhatIs(), []);
  useEffect(() => followPanels(), []);
  useShortcuts();
  useCardPicture();
}

/** One opened shot, on one of the desks. */
export function ShotRoom() {
  const { id = '', desk: deskId } = useParams();
  const desk = deskOf(deskId);
  const status = useShot((s) => s.status);
  const name = useShot((s) => s.shot?.name);
  useOpened(id);
  useFollowing();
  useEffect(() => {
    document.title = name ? `${name} – Varrup` : 'Varrup';
  }, [name]);
  useOwnPlaces(desk);
  useLooked(desk?.id === 'review');
  return (
    <main className="flex h-full flex-col">
      <h1 className="sr-only">{name ?? 'Varrup'}</h1>
      <TopBar />
      {status === 'ready' ? <DeskLayout desk={desk} /> : null}
      {status === 'loading' ? (
        <p className="m-auto text-graphite" role="status">
          Opening the shot…
        </p>
      ) : null}
      {status === 'failed' ? <Unopened id={id} /> : null}
      <HereMenu />
      <Dialogs />
      <MeetingDialog />
    </main>
  );
}

/** Says why a shot could not be opened, and what can be done. */
function Unopened({ id }: { id: string }) {
  const failure = useShot((s) => s.failure);
  const isUnreadable = useShot((s) => s.isUnreadable);
  return (
    <div className="m-auto max-w-md text-center">
      <p className="mb-3">{failure}</p>
      {isUnreadable ? (
        <Button look="pill" className="mr-3" onClick={() => void openMended(id)}>
          Open its last good state
        </Button>
      ) : null}
      <Link to="/" className="text-blue underline">
        To the productions
      </Link>
    </div>
  );
}
