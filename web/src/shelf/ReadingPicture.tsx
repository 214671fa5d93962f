import type { Photo } from "../api/client";

/** The photo with what its reading means drawn on it: the horizon with its lean, and the two edges that would meet. */
export function ReadingPicture({ photo }: { photo: Photo }) {
  const { reading } = photo;
  const height = 1000 / reading.ratio;
  const lean = reading.tilt === null ? 0 : Math.tan(2 * Math.PI * reading.tilt) * 500;
  const middle = (reading.horizon ?? 0) * height;
  const colour = reading.agreement >= 70 ? "#7fb069" : reading.agreement >= 50 ? "#e3b23c" : "#e0563b";
  return (
    <div className="reading-picture">
      <img src={photo.preview} alt={photo.name} />
      <svg viewBox={`0 0 1000 ${height}`} preserveAspectRatio="none" aria-hidden="true">
        {[0, 980].map((x) => (
          <rect key={x} x={x} y={0} width={20} height={height} fill={colour} opacity={0.75} />
        ))}
        {reading.tilt !== null && (
          <>
            <line x1={0} y1={middle} x2={1000} y2={middle} stroke="#fff" strokeWidth={3} strokeDasharray="4 12" opacity={0.8} />
            <line x1={0} y1={middle - lean} x2={1000} y2={middle + lean} stroke="#e8613f" strokeWidth={5} />
          </>
        )}
      </svg>
    </div>
  );
}
