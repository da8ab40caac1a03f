import type { ReactNode } from 'react';

/** One step of building, with what it is for. */
export const Section = ({ title, about, children }: { title: string; about?: string; children: ReactNode }) => (
  <section aria-label={title} className="flex flex-col gap-1.5 border-b border-rule px-3 py-2.5">
    <h2 className="font-semibold">{title}</h2>
    {about ? <p className="text-sm text-graphite">{about}</p> : null}
    {children}
  </section>
);
