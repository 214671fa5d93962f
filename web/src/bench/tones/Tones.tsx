import "./Tones.css";

export interface Histogram {
  red: number[];
  green: number[];
  blue: number[];
  light: number[];
}

const PLANES = ["red", "green", "blue"] as const;

/** The outline of counts over 0…1 across and 1…0 down. */
function outline(counts: number[]): string {
  const last = Math.max(counts.length - 1, 1);
  return `M0 1${counts.map((count, n) => `L${(n / last).toFixed(4)} ${(1 - 0.94 * count).toFixed(4)}`).join("")}L1 1Z`;
}

/** How the tones of the step's input are spread, drawn over a square of one by one. */
export function Tones({ histogram, only }: { histogram: Histogram | undefined; only?: keyof Histogram }) {
  if (!histogram) return null;
  const planes = only && only !== "light" ? [only] : PLANES;
  return (
    <g className="tones">
      {(!only || only === "light") && <path className="tones-light" d={outline(histogram.light)} />}
      {only !== "light" && planes.map((plane) => <path key={plane} className={`tones-${plane}`} d={outline(histogram[plane])} />)}
    </g>
  );
}
