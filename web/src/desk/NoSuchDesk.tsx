import { Link, useParams } from 'react-router';
import { FIRST_DESK } from './registry.ts';

/** Laid over the desk where an address names one that there is not. */
export function NoSuchDesk() {
  const { id } = useParams();
  return (
    <section aria-label="No desk" className="absolute inset-0 z-20 grid place-items-center bg-paper">
      <div className="text-center">
        <h2 className="text-lg font-semibold">There is no desk of that name</h2>
        <Link to={`/shots/${id}/${FIRST_DESK}`} className="mt-3 inline-block text-blue underline">
          To the desk Animate
        </Link>
      </div>
    </section>
  );
}
