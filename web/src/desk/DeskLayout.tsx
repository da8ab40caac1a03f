import type { Shot } from '@varrup/core';
import { Suspense } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import { DrawingTable } from '../board/DrawingTable.tsx';
import { IdeaPanel } from '../board/IdeaPanel.tsx';
import { CastPanel } from '../cast/CastPanel.tsx';
import { LooseBar } from '../channels/LooseBar.tsx';
import { HelpMark } from '../help/HelpMark.tsx';
import { FixBar } from '../review/FixBar.tsx';
import { useShot } from '../shot/shot-store.ts';
import { StagePanel } from '../stage/StagePanel.tsx';
import { PoseStrip } from '../strip/PoseStrip.tsx';
import { dropFiles } from '../take-in/dropping.ts';
import { Transport } from '../timeline/Transport.tsx';
import { TrialBar } from '../trial/TrialBar.tsx';
import { usePlaces } from '../view/places.ts';
import { LargeButton } from './LargeButton.tsx';
import { NoSuchDesk } from './NoSuchDesk.tsx';
import { headingOf, type PanelId, panelOf, shownAmong } from './panels.ts';
import { Rail, Tabs } from './Rail.tsx';
import { type Desk, deskOf, type Places } from './registry.ts';

/**
 * What stands on a desk. The stage stays as it is from desk to desk; what a desk lays over it leaves it as it is, so that coming back is as if one had
 * never left.
 */
export function DeskLayout({ desk }: { desk: Desk | undefined }) {
  const shot = useShot((s) => s.shot);
  const places = (desk ?? deskOf(undefined))?.places;
  if (!shot || !places) return null;
  return (
    <section
      aria-label={`The desk ${desk?.word ?? ''}`}
      className="relative min-h-0 grow"
      // Files are dropped on any desk.
      onDragOver={(event) => event.dataTransfer.types.includes('Files') && event.preventDefault()}
      onDrop={(event) => {
        if (event.dataTransfer.files.length === 0) return;
        event.preventDefault();
        void dropFiles([...event.dataTransfer.files]);
      }}
    >
      <div className="flex h-full" inert={!desk}>
        <Laid shot={shot} places={places} />
      </div>
      {desk ? null : <NoSuchDesk />}
    </section>
  );
}

/** Over its neighbours, as large as the desk, while it is made large. */
const largeWhen = (is: boolean) => (is ? 'absolute inset-0 z-20' : 'h-full');

function Laid({ shot, places }: { shot: Shot; places: Places }) {
  const rows = useDefaultLayout({ id: 'rows', storage: localStorage });
  const columns = useDefaultLayout({ id: 'columns', storage: localStorage });
  const stage = useDefaultLayout({ id: 'stage', storage: localStorage });
  const large = usePlaces((s) => s.large);
  return (
    <>
      <div className="relative min-w-0 grow">
        <Group orientation="vertical" defaultLayout={rows.defaultLayout} onLayoutChanged={rows.onLayoutChanged}>
          <Panel id="panel-above" defaultSize="68%" minSize="30%">
            <Group
              orientation="horizontal"
              defaultLayout={columns.defaultLayout}
              onLayoutChanged={columns.onLayoutChanged}
            >
              {places.left ? (
                <>
                  <Panel id="panel-cast" defaultSize="15%" minSize="150px">
                    {places.left === 'idea' ? <IdeaPanel /> : <CastPanel />}
                  </Panel>
                  <Divider upright />
                </>
              ) : null}
              <Panel id="panel-middle" minSize="30%">
                <Group
                  orientation="vertical"
                  defaultLayout={stage.defaultLayout}
                  onLayoutChanged={stage.onLayoutChanged}
                >
                  <Panel id="panel-stage" minSize="40%">
                    <div className={`flex flex-col ${largeWhen(large === 'stage')}`} data-place="stage">
                      <div className="relative min-h-0 grow">
                        <StagePanel covered={places.over !== null} />
                        {places.over === 'drawing' ? <DrawingTable shot={shot} /> : null}
                      </div>
                      <TrialBar />
                      <FixBar />
                    </div>
                  </Panel>
                  {places.strip ? (
                    <>
                      <Divider />
                      <Panel id="panel-strip" defaultSize="82px" minSize="40px" maxSize="140px">
                        <PoseStrip />
                      </Panel>
                    </>
                  ) : null}
                </Group>
              </Panel>
              <Divider upright />
              <Panel id="panel-channels" defaultSize="20%" minSize="236px" maxSize="40%">
                <Beside shot={shot} among={places.beside} />
              </Panel>
            </Group>
          </Panel>
          <Divider />
          <Panel id="panel-timeline" minSize="120px">
            <Below shot={shot} among={places.below} />
          </Panel>
        </Group>
      </div>
      <Rail among={places.beside} />
    </>
  );
}

/** What stands beside the stage: one panel at a time, chosen in the rail at the edge. */
function Beside({ shot, among }: { shot: Shot; among: readonly PanelId[] }) {
  const side = usePlaces((s) => s.side);
  const large = usePlaces((s) => s.large === 'beside');
  const panel = panelOf(shownAmong(side, among));
  return (
    <section
      aria-label="Beside the stage"
      data-explained={headingOf(panel)}
      data-place="beside"
      className={`flex flex-col bg-card ${largeWhen(large)}`}
    >
      <Body panel={panel.id as PanelId} shot={shot} />
      <LooseBar shot={shot} />
    </section>
  );
}

/** What stands below the stage: where in time one is, and the views of timing. */
function Below({ shot, among }: { shot: Shot; among: readonly PanelId[] }) {
  const tab = usePlaces((s) => s.tab);
  const large = usePlaces((s) => s.large === 'below');
  const panel = panelOf(shownAmong(tab, among));
  return (
    <section
      aria-label="Timing"
      data-explained={headingOf(panel)}
      data-place="below"
      data-large={large || undefined}
      className={`flex flex-col bg-card ${largeWhen(large)}`}
    >
      <Transport>
        <Tabs among={among} />
        <HelpMark of={headingOf(panel)} className="ml-1" />
        <LargeButton place="below" />
      </Transport>
      <div className="min-h-0 grow">
        <Body panel={panel.id as PanelId} shot={shot} />
      </div>
    </section>
  );
}

function Body({ panel, shot }: { panel: PanelId; shot: Shot }) {
  const { Body: Content } = panelOf(panel);
  return (
    // Of its own for each: what was there is gone at once, and not hidden until the next has come.
    <Suspense key={panel} fallback={null}>
      <Content shot={shot} />
    </Suspense>
  );
}

/** The line between two panels; it can be dragged, and moved with the arrow keys. */
const Divider = ({ upright = false }: { upright?: boolean }) => (
  <Separator
    className={`bg-rule transition-colors hover:bg-blue data-[separator=active]:bg-blue ${upright ? 'w-px' : 'h-px'}`}
  />
);
