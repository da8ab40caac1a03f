import { useCooking } from './KitsPanel.tsx';

/** Says that a kit is on the table. */
export function KitsBadge() {
  const isDrafted = useCooking((c) => c.recipe !== null);
  if (!isDrafted) return null;
  return (
    <span className="absolute top-1 right-1.5 size-2 rounded-full bg-ochre" title="A kit is shown and not written yet">
      <span className="sr-only">, a kit is shown</span>
    </span>
  );
}
