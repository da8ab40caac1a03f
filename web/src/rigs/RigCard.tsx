import type { RigLink } from '@varrup/core';
import type { ReactNode } from 'react';
import { useRigPicture } from './pictures.ts';

/** A picture of a rig at rest. @param meanwhile what stands there while there is none */
export function RigPicture({
  link,
  className = '',
  meanwhile,
}: {
  link: RigLink;
  className?: string;
  meanwhile?: ReactNode;
}) {
  const { data, isError } = useRigPicture(link);
  if (!data && meanwhile) return meanwhile;
  if (data) return <img src={data} alt="" className={`object-cover ${className}`} />;
  return (
    <span className={`grid place-items-center text-sm text-graphite ${className}`}>
      {isError ? 'no picture' : 'drawing…'}
    </span>
  );
}
