import { useFindings } from './findings.ts';

/** How many findings there are. */
export function ChecksBadge() {
  const count = useFindings((f) => f.findings.length);
  const done = useFindings((f) => f.state === 'done');
  if (count === 0)
    return done ? (
      <span className="absolute top-0.5 right-1.5 text-moss-ink" title="The checks find nothing">
        ✓<span className="sr-only"> nothing found</span>
      </span>
    ) : null;
  return (
    <span className="tabular absolute top-0.5 right-1 min-w-4 rounded-full bg-vermilion-ink px-1 text-center text-xs leading-4 font-normal text-on-solid">
      {count}
      <span className="sr-only"> findings</span>
    </span>
  );
}
