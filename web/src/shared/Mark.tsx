/** The sign of Caracol: a snail's shell that is a planet, with its moon. `public/favicon.svg` is the same. */
export function Mark({ size = 26 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true">
      <path
        d="M14.6 5.2C21.2 5.2 26.2 10.3 26.2 16.9C26.2 20.5 26.9 23.3 29 26.4C29.8 27.6 29.2 28.6 27.8 28.6L14.6 28.6C8.1 28.6 3 23.4 3 16.9C3 10.3 8.1 5.2 14.6 5.2Z"
        fill="var(--moss)"
      />
      <path
        d="M20.64 24.10C22.35 22.09 23.05 19.51 22.76 17.24C22.47 14.96 21.22 13.01 19.59 11.87C17.96 10.72 15.98 10.38 14.29 10.75C12.60 11.13 11.22 12.20 10.47 13.50C9.73 14.81 9.61 16.32 10.01 17.56C10.40 18.80 11.30 19.76 12.33 20.23C13.36 20.70 14.51 20.69 15.41 20.30C16.32 19.92 16.98 19.18 17.26 18.37C17.54 17.56 17.45 16.71 17.10 16.06C16.75 15.40 16.15 14.96 15.52 14.80C14.90 14.65 14.26 14.77 13.79 15.08C13.33 15.39 13.04 15.87 12.96 16.35C12.89 16.83 13.03 17.30 13.29 17.63"
        fill="none"
        stroke="var(--sheet)"
        strokeWidth="2.2"
        strokeLinecap="round"
      />
      <circle cx="27" cy="6" r="2.7" fill="var(--fair)" />
    </svg>
  );
}
