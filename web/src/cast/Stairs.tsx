/** A flight of steps, drawn to stand among the other signs. */
export const Stairs = ({ size = 24 }: { size?: number }) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 24 24"
    fill="none"
    stroke="currentColor"
    strokeWidth="2"
    strokeLinejoin="round"
    aria-hidden
  >
    <path d="M3 5h5v5h5v5h5v5h3M3 5v15h18" />
  </svg>
);
