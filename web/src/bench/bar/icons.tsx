import type { ReactNode } from "react";

/** Signs of our own for what stands beside the picture: 20 × 20, drawn in the colour of the text. */
function Sign({ children }: { children: ReactNode }) {
  return (
    <svg
      viewBox="0 0 20 20"
      width={20}
      height={20}
      fill="none"
      stroke="currentColor"
      strokeWidth={1.6}
      strokeLinecap="round"
      aria-hidden="true"
    >
      {children}
    </svg>
  );
}

export const FitSign = () => (
  <Sign>
    <path d="M2.5 6V2.5H6M14 2.5h3.5V6M17.5 14v3.5H14M6 17.5H2.5V14" />
    <rect x={6} y={6.5} width={8} height={7} rx={1} fill="currentColor" stroke="none" />
  </Sign>
);
export const LeanSign = () => (
  <Sign>
    <rect x={5.5} y={6} width={9} height={8} rx={1} transform="rotate(-18 10 10)" />
    <path d="M15.8 3.6A8 8 0 0 1 18 8.4M18.6 5.4 18 8.6l-3-.9" />
  </Sign>
);
export const OriginalSign = () => (
  <Sign>
    <path d="M3 4.5h14v11H3z" />
    <path d="m3.5 13.5 4-4.5 3 3 2.5-2.5 3.5 4" />
    <circle cx={13} cy={7.5} r={1} fill="currentColor" stroke="none" />
  </Sign>
);
export const SplitSign = () => (
  <Sign>
    <path d="M10 4h7v12h-7z" fill="currentColor" stroke="none" opacity={0.45} />
    <path d="M3 4h14v12H3zM10 1.5v17" />
  </Sign>
);
export const BesideSign = () => (
  <Sign>
    <path d="M2 5.5h6.8v9H2z" />
    <path d="M11.2 5.5H18v9h-6.8z" fill="currentColor" />
  </Sign>
);
export const AgainstSign = () => (
  <Sign>
    <path d="M4 7h9.5L11 4.5M16 13H6.5L9 15.5" />
  </Sign>
);
export const SurroundSign = () => (
  <Sign>
    <path d="M2.5 3h15v14h-15z" fill="currentColor" opacity={0.35} stroke="none" />
    <path d="M2.5 3h15v14h-15zM6.5 7h7v6h-7z" />
  </Sign>
);
export const HandlesSign = () => (
  <Sign>
    <path d="M3.5 14.5C6 7 12 6 16 4.5" strokeDasharray="2.2 2.6" />
    <circle cx={4} cy={14} r={2.2} fill="currentColor" stroke="none" />
    <circle cx={16} cy={4.8} r={2.2} />
  </Sign>
);
export const FoldSign = ({ folded }: { folded: boolean }) => (
  <Sign>
    <path d={folded ? "m12 5-5 5 5 5" : "m8 5 5 5-5 5"} />
  </Sign>
);
export const PlatesSign = () => (
  <Sign>
    <path d="M2.5 12.5 10 16.5l7.5-4M2.5 9.2 10 13.2l7.5-4" />
    <path d="M10 2.5 17.5 6 10 9.8 2.5 6Z" fill="currentColor" />
  </Sign>
);
