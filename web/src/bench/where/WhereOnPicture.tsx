import { useDrag } from "@use-gesture/react";
import { useRef, useState } from "react";
import { fromScreen, type Placed, type Point, perUnit, toFrame, toStage, transformOf } from "../model/geometry";
import type { Shape, Step, Where } from "../model/piece";
import { addShape, boxOf, changeShape, erased, joinOf, simplified, toPairs } from "../model/where";
import { useBenchPart, useDocument } from "../store";
import { ShapeHandles } from "./ShapeHandles";
import { useVeil } from "./useVeil";
import { useWhere } from "./useWhere";

interface Props {
  /** The layer or group whose where it is, or the layer of the step. */
  sheet: string;
  step: Step | null;
  where: Where | null;
  placed: Placed;
  /** Which keep area of the layer's photo it is. */
  area?: number | null;
  /** Takes what is drawn, where that belongs to no step or layer yet. */
  onDrawn?: (where: Where) => void;
}

const FINE = 0.004;
const LEAST = 0.02;

/** The where of the selected step or layer on the picture: its veil, its shapes to drag, and the tool that draws new ones. */
export function WhereOnPicture({ sheet, step, where, placed, area = null, onDrawn }: Props) {
  const document = useDocument();
  const { tool, brush, whereShape, patch } = useBenchPart("tool", "brush", "whereShape", "patch");
  const own = useWhere(sheet, step?.id ?? null, area);
  const setWhere: typeof own = onDrawn ? (next) => next && onDrawn(next) : own;
  const veil = useVeil(document, sheet, step?.id ?? null, area === null && !onDrawn ? where : null);
  const ref = useRef<SVGSVGElement>(null);
  const [line, setLine] = useState<Point[]>([]);
  const at = (clientX: number, clientY: number): Point => {
    const box = ref.current?.getBoundingClientRect();
    return toFrame(placed, fromScreen(placed, { x: clientX - (box?.left ?? 0), y: clientY - (box?.top ?? 0) }));
  };
  const shapeOf = (points: Point[]): Shape | null => {
    const [a, b] = [points[0], points.at(-1)];
    if (!a || !b) return null;
    if (tool === "rectangle" || tool === "ellipse") {
      const box = boxOf(a, b);
      return Number(box.rx) < LEAST && Number(box.ry) < LEAST ? null : { kind: tool, turn: 0, ...box };
    }
    if (tool === "polygon") {
      const kept = simplified(points, FINE);
      return kept.length < 3 ? null : { kind: "polygon", points: toPairs(kept) };
    }
    const kept = toPairs(simplified(points, FINE / 2));
    return { kind: "stroke", points: kept, radius: brush.radius, hardness: brush.hardness, join: joinOf(where, tool === "erase") };
  };
  const bind = useDrag(
    ({ first, last, xy: [x, y], event }) => {
      if (!tool) return;
      event.stopPropagation();
      const points = first ? [at(x, y)] : [...line, at(x, y)];
      setLine(last ? [] : points);
      if (!last) return;
      const shape = shapeOf(points);
      if (!shape) return;
      setWhere(tool === "erase" ? erased(where, shape) : addShape(where, shape));
      patch({ whereShape: where?.shapes.length ?? 0 });
    },
    { pointer: { keys: false }, filterTaps: false },
  );
  const [a, b] = [line[0], line.at(-1)];
  const drawn = line.map((p, n) => `${n ? "L" : "M"}${toStage(placed, p).x.toFixed(1)} ${toStage(placed, p).y.toFixed(1)}`).join("");
  const box = a && b && boxOf(a, b);
  const unit = perUnit(placed);
  return (
    <>
      {veil && (
        <img
          className="veil"
          src={veil}
          alt=""
          style={{ left: placed.left, top: placed.top, width: placed.width, height: placed.height, transform: cssOf(placed) }}
        />
      )}
      <svg ref={ref} className={`handles ${tool ? "drawing" : ""}`} aria-label="Area on the picture" {...(tool ? bind() : {})}>
        {tool && <rect width="100%" height="100%" fill="transparent" />}
        <g transform={transformOf(placed)}>
          {where?.shapes.map((shape, index) => (
            <ShapeHandles
              // biome-ignore lint/suspicious/noArrayIndexKey: a shape is known by its order alone
              key={index}
              shape={shape}
              placed={placed}
              chosen={index === whereShape && !tool}
              onChoose={() => patch({ whereShape: index })}
              set={(change, gesture) => setWhere(changeShape(where, index, change), `${index}-${gesture}`)}
              onDragging={(dragging) => patch({ dragging })}
            />
          ))}
          {(tool === "stroke" || tool === "erase") && drawn && (
            <path
              d={drawn}
              fill="none"
              stroke={tool === "erase" ? "var(--ink)" : "var(--coral)"}
              strokeOpacity={0.45}
              strokeWidth={brush.radius * 2 * unit}
              strokeLinecap="round"
              strokeLinejoin="round"
            />
          )}
          {tool === "polygon" && drawn && <path d={`${drawn}z`} fill="var(--coral-fill)" stroke="var(--trace)" strokeWidth={2} />}
          {box && (tool === "rectangle" || tool === "ellipse") && (
            <rect
              x={toStage(placed, { x: Number(box.x) - Number(box.rx), y: 0 }).x}
              y={toStage(placed, { x: 0, y: Number(box.y) - Number(box.ry) }).y}
              width={Number(box.rx) * 2 * unit}
              height={Number(box.ry) * 2 * unit}
              rx={tool === "ellipse" ? Number(box.rx) * unit : 0}
              ry={tool === "ellipse" ? Number(box.ry) * unit : 0}
              fill="var(--coral-fill)"
              stroke="var(--trace)"
              strokeWidth={2}
            />
          )}
        </g>
      </svg>
    </>
  );
}

const cssOf = (placed: Placed): string | undefined =>
  placed.turn || placed.flip ? `rotate(${placed.turn ?? 0}turn) scaleX(${placed.flip ? -1 : 1})` : undefined;
