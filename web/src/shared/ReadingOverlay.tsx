import type { Reading } from "../api/client";

/** What a reading means, drawn over its picture: the horizon with its lean, the edges that would meet, the best cuts, what stands out. */
export function ReadingOverlay({ reading }: { reading: Reading }) {
  const height = 1000 / reading.ratio;
  const lean = reading.tilt === null ? 0 : Math.tan(2 * Math.PI * reading.tilt) * 500;
  const middle = (reading.horizon ?? 0) * height;
  const colour = reading.agreement >= 70 ? "var(--good)" : reading.agreement >= 50 ? "var(--fair)" : "var(--poor)";
  const { loop } = reading;
  return (
    <svg className="reading-overlay" viewBox={`0 0 1000 ${height}`} preserveAspectRatio="none" aria-hidden="true">
      {[0, 988].map((x) => (
        <rect key={x} x={x} y={0} width={12} height={height} fill={colour} opacity={0.8} />
      ))}
      {loop && (
        <>
          <rect x={0} y={0} width={loop.left * 1000} height={height} fill="var(--night)" opacity={0.45} />
          <rect x={loop.right * 1000} y={0} width={(1 - loop.right) * 1000} height={height} fill="var(--night)" opacity={0.45} />
          {[loop.left, loop.right].map((cut) => (
            <line
              key={cut}
              x1={cut * 1000}
              x2={cut * 1000}
              y1={0}
              y2={height}
              stroke="var(--leaf)"
              strokeWidth={4}
              strokeDasharray="16 10"
            />
          ))}
        </>
      )}
      {reading.features.map((feature) => (
        <rect
          key={`${feature.left} ${feature.top}`}
          x={feature.left * 1000}
          y={feature.top * height}
          width={feature.width * 1000}
          height={feature.height * height}
          rx={10}
          fill="none"
          stroke="var(--trace)"
          strokeWidth={feature.kind === "face" ? 4 : 2.5}
          strokeDasharray={feature.kind === "face" ? undefined : "3 8"}
          strokeLinecap="round"
          opacity={0.9}
        />
      ))}
      {reading.tilt !== null && (
        <>
          <line x1={0} y1={middle} x2={1000} y2={middle} stroke="var(--white)" strokeWidth={3} strokeDasharray="4 12" opacity={0.8} />
          <line x1={0} y1={middle - lean} x2={1000} y2={middle + lean} stroke="var(--coral-bright)" strokeWidth={5} />
        </>
      )}
    </svg>
  );
}
