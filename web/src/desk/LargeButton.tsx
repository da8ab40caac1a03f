import { Maximize2, Minimize2 } from 'lucide-react';
import { shortcutOf } from '../commands/list.ts';
import { Hint } from '../ui/Hint.tsx';
import { type Place, usePlaces } from '../view/places.ts';

/** Makes what stands in a place large over its neighbours, and as it was. */
export function LargeButton({ place }: { place: Place }) {
  const large = usePlaces((s) => s.large === place);
  const words = large ? 'As it was' : 'Make this large';
  const Sign = large ? Minimize2 : Maximize2;
  return (
    <Hint text={words} keys={shortcutOf('view.large')}>
      <button
        type="button"
        aria-label={words}
        aria-pressed={large}
        onClick={() => usePlaces.setState({ large: large ? null : place })}
        className="grid size-5 shrink-0 place-items-center rounded-md text-graphite hover:bg-well aria-pressed:text-blue"
      >
        <Sign size={12} />
      </button>
    </Hint>
  );
}
