/** The spiral. */
export function Mark({ size = 26 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path
        d="M4 27c8 2 22 1 23-10C28 8 21 3 14.5 4.500 9 6 6 11 7.500 16c1.300 4.500 6.500 6.500 10.200 4.300 3.500-2 4-6.500 1.300-8.800-2.300-1.900-5.500-.9-6 1.500"
        fill="none"
        stroke="var(--coral)"
        strokeWidth="3.2"
        strokeLinecap="round"
      />
    </svg>
  );
}
