import { type Point, round, toStage } from "../model/geometry";
import { movedStroke, pointsOf, type Stroke, sourceOf, takesSource } from "../model/touch";
import { Knob } from "./Knob";
import { Stroke as Line } from "./parts";
import type { HandleProps } from "./types";

/** A line drawn by hand. */
export function Lasso({ points, placed, closed }: { points: Point[]; placed: HandleProps["placed"]; closed?: boolean }) {
  const d = `M${points
    .map((point) => {
      const spot = toStage(placed, point);
      return `${spot.x.toFixed(1)} ${spot.y.toFixed(1)}`;
    })
    .join("L")}${closed ? "Z" : ""}`;
  return (
    <g pointerEvents="none">
      <path d={d} fill="none" stroke="var(--trace-edge)" strokeWidth={4} />
      <path d={d} fill="none" stroke="var(--trace)" strokeWidth={2} strokeDasharray="5 4" />
    </g>
  );
}

interface ChosenProps {
  stroke: Stroke;
  placed: HandleProps["placed"];
  change: (stroke: Stroke, gesture: string) => void;
  dragging: (dragging: boolean) => void;
}

/** The stroke that is chosen in the list: its line, a knob that moves it, and one at its source. */
export function Chosen({ stroke, placed, change, dragging }: ChosenProps) {
  const points = pointsOf(stroke);
  const spot = points[0] ?? { x: 0, y: 0 };
  const source = sourceOf(stroke, spot);
  const linked = takesSource(stroke.mode);
  return (
    <g>
      <Lasso points={points.length === 1 ? [...points, ...points] : points} placed={placed} closed={stroke.outline.length > 0} />
      {linked && <Line from={toStage(placed, source)} to={toStage(placed, spot)} dash="2 5" />}
      {linked && (
        <Knob
          label="Stroke, source"
          look="coral"
          placed={placed}
          at={source}
          onMove={({ to, gesture }) =>
            change(
              {
                ...stroke,
                source: { ...stroke.source, dx: round(stroke.source.dx + to.x - source.x), dy: round(stroke.source.dy + to.y - source.y) },
              },
              gesture,
            )
          }
          onDragging={dragging}
        />
      )}
      <Knob
        label="Stroke, move"
        placed={placed}
        at={spot}
        onMove={({ to, gesture }) => change(movedStroke(stroke, { x: to.x - spot.x, y: to.y - spot.y }), gesture)}
        onDragging={dragging}
      />
    </g>
  );
}
