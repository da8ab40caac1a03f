import type { RigLink } from '@varrup/core';
import { useRigPicture } from './pictures.ts';

/** A picture of a rig at rest. */
export function RigPicture({ link, className = '' }: { link: RigLink; className?: string }) {
  const { data, isError } = useRigPicture(link);
  if (data) return <img src={data} alt="" className={`object-cover ${className}`} />;
  return (
    <span className={`grid place-items-center text-sm text-graphite ${className}`}>
      {isError ? 'no picture' : 'drawing…'}
    </span>
  );
}
