/** What a drag does, while it lasts, at the foot of the view it goes on in. */
export function DragNote({ text }: { text: string }) {
  if (!text) return null;
  return (
    <div
      className="pointer-events-none absolute bottom-2 left-3 rounded-md bg-ink px-2 py-1 text-sm text-on-solid"
      role="status"
    >
      {text}
    </div>
  );
}
