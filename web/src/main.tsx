import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Route, Routes } from 'react-router';
import { Toaster } from 'sonner';
import { Home } from './home/Home.tsx';
import './style.css';
import './ui/theme.ts';

/** The desks: fetched when a shot is opened, or when the list of productions is there and there is nothing else to do. */
const fetchRoom = () => import('./desk/ShotRoom.tsx').then((file) => ({ default: file.ShotRoom }));
const ShotRoom = lazy(fetchRoom);
if (!location.pathname.startsWith('/shots/'))
  addEventListener('load', () => requestIdleCallback(fetchRoom, { timeout: 5_000 }));

/** The library of rigs: fetched when it is shown. */
const RigLibrary = lazy(() => import('./rigs/RigLibrary.tsx').then((file) => ({ default: file.RigLibrary })));

/** A page of its own, for receivers: fetched when it is shown. */
const Playground = lazy(() => import('./playground/Playground.tsx').then((file) => ({ default: file.Playground })));

/** A review as it is printed: fetched when it is shown. */
const ReportPage = lazy(() => import('./review/ReportPage.tsx').then((file) => ({ default: file.ReportPage })));

/** The board as it is printed: fetched when it is shown. */
const BoardPage = lazy(() => import('./board/BoardPage.tsx').then((file) => ({ default: file.BoardPage })));

/** Where rigs are built: fetched when it is shown. */
const BuildRoom = lazy(() => import('./rigging/BuildRoom.tsx').then((file) => ({ default: file.BuildRoom })));

const queries = new QueryClient({ defaultOptions: { queries: { retry: 2, refetchOnWindowFocus: true } } });

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Tooltip.Provider delayDuration={450}>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<Home />} />
            <Route
              path="/rigs"
              element={
                <Suspense fallback={null}>
                  <RigLibrary />
                </Suspense>
              }
            />
            <Route
              path="/rigs/:rig/:version/build"
              element={
                <Suspense fallback={null}>
                  <BuildRoom />
                </Suspense>
              }
            />
            <Route
              path="/shots/:id/board/page"
              element={
                <Suspense fallback={null}>
                  <BoardPage />
                </Suspense>
              }
            />
            <Route
              path="/shots/:id/report"
              element={
                <Suspense fallback={null}>
                  <ReportPage />
                </Suspense>
              }
            />
            <Route
              path="/shots/:id/:desk?"
              element={
                <Suspense fallback={null}>
                  <ShotRoom />
                </Suspense>
              }
            />
            <Route
              path="/playground"
              element={
                <Suspense fallback={null}>
                  <Playground />
                </Suspense>
              }
            />
            <Route path="*" element={<Home />} />
          </Routes>
        </BrowserRouter>
        <Toaster
          // Under the bar at the top: nothing is worked on there.
          position="top-center"
          offset={{ top: 48 }}
          style={{ fontFamily: 'inherit' }}
          toastOptions={{ className: 'bg-card! text-ink! border-rule!' }}
        />
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
