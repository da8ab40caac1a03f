/** The side a control is of: round on the left, cut on the right, doubled in the middle, each in its tint. */
export function SideMark({ side }: { side: 'left' | 'right' | 'centre' }) {
  const look = {
    left: 'rounded-full bg-teal',
    right: 'rounded-[2px] bg-plum',
    centre: 'rounded-full border-2 border-umber',
  }[side];
  return <span className={`block size-2 shrink-0 ${look}`} aria-hidden />;
}
