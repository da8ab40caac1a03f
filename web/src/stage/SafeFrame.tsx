import { useHabits } from '../view/habits.ts';

/** What the shot's camera films, and within it what every screen shows of it: action in the outer lines, writing in the inner ones. */
export function SafeFrame() {
  const safe = useHabits((h) => h.safeFrame);
  return (
    <div className="pointer-events-none absolute inset-0 grid place-items-center [container-type:size]" aria-hidden>
      <div className="relative aspect-video w-[min(100cqw,100cqh*16/9)] border border-ink/40 shadow-[0_0_0_100vmax_rgb(0_0_0/0.22)]">
        {safe ? (
          <>
            <div data-testid="safe-action" className="absolute inset-[3.5%] border border-ink/35" />
            <div data-testid="safe-writing" className="absolute inset-[5%] border border-dashed border-ink/35" />
            <span className="absolute top-1/2 left-1/2 h-3 w-px -translate-x-1/2 -translate-y-1/2 bg-ink/35" />
            <span className="absolute top-1/2 left-1/2 h-px w-3 -translate-x-1/2 -translate-y-1/2 bg-ink/35" />
          </>
        ) : null}
      </div>
    </div>
  );
}
