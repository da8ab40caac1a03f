import type { Shot } from '@varrup/core';
import { SoundStrip } from '../sound/SoundStrip.tsx';
import { CameraRow } from './CameraRow.tsx';
import { MarkRow } from './MarkRow.tsx';
import { NoteRow } from './NoteRow.tsx';
import { Sheet } from './Sheet.tsx';

/** The sheet, with the cameras, markers and notes over it and the sounds under it. */
export function SheetPanel({ shot }: { shot: Shot }) {
  return (
    <div className="flex h-full flex-col">
      <CameraRow shot={shot} />
      <MarkRow shot={shot} />
      <NoteRow shot={shot} />
      <div className="min-h-0 grow">
        <Sheet />
      </div>
      <SoundStrip shot={shot} />
    </div>
  );
}
