import { useEffect } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { api } from '../api/client.ts';
import { BounceTable } from '../bounces/BounceTable.tsx';
import { CastPanel } from '../cast/CastPanel.tsx';
import { AddChannelDialog } from '../channels/AddChannelDialog.tsx';
import { SetDialog } from '../channels/SetsPanel.tsx';
import { watchShot } from '../checks/findings.ts';
import { CycleView } from '../clips/CycleView.tsx';
import { Palette } from '../commands/Palette.tsx';
import { ShortcutSheet } from '../commands/ShortcutSheet.tsx';
import { useShortcuts } from '../commands/shortcuts.ts';
import { FormulaPanel } from '../formula/FormulaPanel.tsx';
import { followPanels } from '../help/what-is-this.ts';
import { HereMenu } from '../menus/HereMenu.tsx';
import { MovieDialog } from '../movie/MovieDialog.tsx';
import { KeepPoseDialog } from '../poses/KeepPoseDialog.tsx';
import { BringRigDialog } from '../rigs/BringRigDialog.tsx';
import { useShot } from '../shot/shot-store.ts';
import { player } from '../sound/player.ts';
import { SoundStrip } from '../sound/SoundStrip.tsx';
import { StagePanel } from '../stage/StagePanel.tsx';
import { PoseStrip } from '../strip/PoseStrip.tsx';
import { Curves } from '../timeline/Curves.tsx';
import { Sheet } from '../timeline/Sheet.tsx';
import { ThinDialog } from '../timeline/ThinDialog.tsx';
import { Transport } from '../timeline/Transport.tsx';
import { TrialBar } from '../trial/TrialBar.tsx';
import { useTable } from '../trial/table.ts';
import { Button } from '../ui/Button.tsx';
import { usePlayhead } from '../view/playhead.ts';
import { useQuestion } from '../view/questions.ts';
import { rememberView, viewOf } from '../view/shot-views.ts';
import { useView } from '../view/view-store.ts';
import { CopiesDialog } from './CopiesDialog.tsx';
import { HoldDialog } from './HoldDialog.tsx';
import { MeetingDialog } from './MeetingDialog.tsx';
import { ParentDialog } from './ParentDialog.tsx';
import { RateDialog } from './RateDialog.tsx';
import { SidePanel } from './SidePanel.tsx';
import { TopBar } from './TopBar.tsx';
import { useCardPicture } from './use-card-picture.ts';
import { VersionDialog } from './VersionDialog.tsx';

/** Has a shot made of the last state of one that can be read, and goes there. */
async function openMended(id: string): Promise<void> {
  try {
    location.assign(`/shots/${await api.mend(id)}`);
  } catch (error) {
    toast.error((error as Error).message);
  }
}

/** What of the view is remembered for each shot. */
const REMEMBERED = ['looking', 'flat', 'four', 'tab', 'side'] as const;

/** The main desk: the shot on its stage, who is in it, what their channels hold, and when. */
export function AnimateDesk() {
  const { id = '' } = useParams();
  const status = useShot((s) => s.status);
  const failure = useShot((s) => s.failure);
  const isUnreadable = useShot((s) => s.isUnreadable);
  const name = useShot((s) => s.shot?.name);

  useEffect(() => {
    void useShot
      .getState()
      .open(id)
      .then(() => {
        const { shot } = useShot.getState();
        if (!shot) return;
        useView.getState().reset(shot.play);
        const { place: _, target: __, ...looked } = viewOf(shot.id);
        useView.getState().set(looked);
        usePlayhead.getState().go(shot.play.first);
      });
    return () => {
      usePlayhead.getState().stop();
      useQuestion.getState().ask(null);
      useTable.getState().leave();
      useShot.getState().close();
    };
  }, [id]);
  useEffect(() => {
    document.title = name ? `${name} – Varrup` : 'Varrup';
  }, [name]);
  useEffect(
    () =>
      useView.subscribe((view, old) => {
        const { shot } = useShot.getState();
        const changed = REMEMBERED.filter((name) => view[name] !== old[name]);
        if (shot && changed.length > 0)
          rememberView(shot.id, Object.fromEntries(changed.map((name) => [name, view[name]])));
      }),
    [],
  );
  useEffect(
    () =>
      useView.subscribe(
        ({ selection }, old) => selection !== old.selection && useShot.getState().tellPicked(selection),
      ),
    [],
  );
  useEffect(() => watchShot(), []);
  useEffect(() => player.follow(), []);
  useEffect(() => followPanels(), []);
  useShortcuts();
  useCardPicture();

  return (
    <main className="flex h-full flex-col">
      <h1 className="sr-only">{name ?? 'Varrup'}</h1>
      <TopBar />
      {status === 'ready' ? <Panels /> : null}
      {status === 'loading' ? (
        <p className="m-auto text-graphite" role="status">
          Opening the shot…
        </p>
      ) : null}
      {status === 'failed' ? (
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
      ) : null}
      <Palette />
      <HereMenu />
      <ShortcutSheet />
      <RateDialog />
      <ParentDialog />
      <AddChannelDialog />
      <SetDialog />
      <CopiesDialog />
      <ThinDialog />
      <VersionDialog />
      <BringRigDialog />
      <KeepPoseDialog />
      <HoldDialog />
      <MeetingDialog />
      <MovieDialog />
    </main>
  );
}

function Panels() {
  const tab = useView((v) => v.tab);
  const shot = useShot((s) => s.shot);
  const rows = useDefaultLayout({ id: 'rows', storage: localStorage });
  const columns = useDefaultLayout({ id: 'columns', storage: localStorage });
  const stage = useDefaultLayout({ id: 'stage', storage: localStorage });
  return (
    <Group
      orientation="vertical"
      className="min-h-0 grow"
      defaultLayout={rows.defaultLayout}
      onLayoutChanged={rows.onLayoutChanged}
    >
      <Panel id="panel-above" defaultSize="68%" minSize="30%">
        <Group orientation="horizontal" defaultLayout={columns.defaultLayout} onLayoutChanged={columns.onLayoutChanged}>
          <Panel id="panel-cast" defaultSize="15%" minSize="150px">
            <CastPanel />
          </Panel>
          <Divider upright />
          <Panel id="panel-middle" minSize="30%">
            <Group orientation="vertical" defaultLayout={stage.defaultLayout} onLayoutChanged={stage.onLayoutChanged}>
              <Panel id="panel-stage" minSize="40%">
                <div className="flex h-full flex-col">
                  <div className="min-h-0 grow">
                    <StagePanel />
                  </div>
                  <TrialBar />
                </div>
              </Panel>
              <Divider />
              <Panel id="panel-strip" defaultSize="82px" minSize="40px" maxSize="140px">
                <PoseStrip />
              </Panel>
            </Group>
          </Panel>
          <Divider upright />
          <Panel id="panel-channels" defaultSize="20%" minSize="236px" maxSize="40%">
            <SidePanel />
          </Panel>
        </Group>
      </Panel>
      <Divider />
      <Panel id="panel-timeline" minSize="120px">
        <section
          aria-label="Timing"
          data-explained={tab.charAt(0).toUpperCase() + tab.slice(1)}
          className="flex h-full flex-col"
        >
          <Transport />
          <div className="min-h-0 grow">
            {tab === 'sheet' ? <Sheet /> : null}
            {tab === 'curves' ? <Curves /> : null}
            {tab === 'cycle' ? <CycleView /> : null}
            {tab === 'bounces' ? <BounceTable /> : null}
            {tab === 'formula' ? <FormulaPanel /> : null}
          </div>
          {tab === 'sheet' && shot ? <SoundStrip shot={shot} /> : null}
        </section>
      </Panel>
    </Group>
  );
}

/** The line between two panels; it can be dragged, and moved with the arrow keys. */
const Divider = ({ upright = false }: { upright?: boolean }) => (
  <Separator
    className={`bg-rule transition-colors hover:bg-blue data-[separator=active]:bg-blue ${upright ? 'w-px' : 'h-px'}`}
  />
);
