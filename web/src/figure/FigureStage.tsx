import { useDrag } from "@use-gesture/react";
import { Button, Spin } from "antd";
import { useRef, useState } from "react";
import type { Photo } from "../api/client";
import { Knob } from "../bench/handles/Knob";
import { type Placed, type Point, perUnit, place, toFrame, toStage } from "../bench/model/geometry";
import { simplified } from "../bench/model/where";
import { zoomWords } from "../bench/store/view";
import { useRoom } from "../bench/useRoom";
import { useKeys } from "../shared/keys";
import { usePanZoom } from "../shared/usePanZoom";
import { movedCorner, painted, type Tool, withCorner, withHint, withoutCorner } from "./figure";
import type { useFigure } from "./useFigure";

const LEAST = 0.02;
const FINE = 0.003;
const CLOSEST = 12;
const FARTHEST = 0.2;
const FITS = { zoom: 1, pan: { x: 0, y: 0 } };

interface Props {
  photo: Photo;
  work: ReturnType<typeof useFigure>;
  tool: Tool;
  brush: number;
  /** Strokes are painted as they are, and lead no search. */
  exact: boolean;
  ground: "photo" | "chequer" | "dark";
}

/** The photo with the figure on it: dragged boxes, strokes and points, and the cut-out as it will be over the faded rest. */
export function FigureStage({ photo, work, tool, brush, exact, ground }: Props) {
  const ref = useRef<HTMLDivElement>(null);
  const room = useRoom(ref);
  const [line, setLine] = useState<Point[]>([]);
  const [hover, setHover] = useState<Point | null>(null);
  const [view, setView] = useState(FITS);
  const box: Placed = place(photo, room.width ? room : { width: 900, height: 640 }, view.zoom, view.pan);
  // The brush is as large on the screen as it was, however close the picture is.
  const radius = brush / view.zoom;
  const zoomBy = (factor: number, to: Point = { x: 0, y: 0 }) =>
    setView(({ zoom, pan }) => {
      const next = Math.min(CLOSEST, Math.max(FARTHEST, zoom * factor));
      const k = next / zoom;
      return { zoom: next, pan: { x: to.x - (to.x - pan.x) * k, y: to.y - (to.y - pan.y) * k } };
    });
  usePanZoom(ref, {
    pan: ({ x, y }) => setView(({ zoom, pan }) => ({ zoom, pan: { x: pan.x + x, y: pan.y + y } })),
    zoom: (factor, { x, y }) => {
      const bounds = ref.current?.getBoundingClientRect();
      if (bounds) zoomBy(factor, { x: x - bounds.left - room.width / 2, y: y - bounds.top - room.height / 2 });
    },
    isGround: () => false,
  });
  useKeys({
    "+": () => zoomBy(1.25),
    "=": () => zoomBy(1.25),
    "-": () => zoomBy(0.8),
    "0": () => setView(FITS),
  });
  const { figure, change, search, searched } = work;
  const at = (x: number, y: number): Point => {
    const bounds = ref.current?.getBoundingClientRect();
    return toFrame(box, { x: x - (bounds?.left ?? 0), y: y - (bounds?.top ?? 0) });
  };
  const finish = (points: Point[]) => {
    const [a, b] = [points[0], points.at(-1)];
    if (!a || !b) return;
    if (tool === "box") {
      if (Math.abs(a.x - b.x) < LEAST || Math.abs(a.y - b.y) < LEAST) return;
      const sides = [Math.min(a.x, b.x), Math.min(a.y, b.y), Math.max(a.x, b.x), Math.max(a.y, b.y)];
      search.mutate({ box: sides, hints: [] });
      return;
    }
    const kept = simplified(points, FINE);
    const add = tool === "add";
    if (exact || !searched) change(({ outline }) => ({ outline: painted(outline, kept, radius, add) }));
    else search.mutate(withHint(searched, kept, radius, add));
  };
  const bind = useDrag(
    ({ first, last, xy: [x, y], tap, event }) => {
      // A second finger has come: the two look about.
      if (event.type === "pointercancel") return setLine([]);
      if (tool === "points") {
        if (last && tap && figure.outline) change({ outline: withCorner(figure.outline, at(x, y)) });
        return undefined;
      }
      const points = first ? [at(x, y)] : [...line, at(x, y)];
      setLine(last ? [] : points);
      if (last) finish(points);
      return undefined;
    },
    { pointer: { keys: false }, filterTaps: false },
  );
  const [a, b] = [line[0], line.at(-1)];
  const stage = (point: Point) => toStage(box, point);
  const path = line.map((p, n) => `${n ? "L" : "M"}${stage(p).x.toFixed(1)} ${stage(p).y.toFixed(1)}`).join("");
  const polygons = (figure.outline?.shapes ?? []).flatMap((shape, k) =>
    shape.kind === "polygon" ? [{ k, points: (shape.points as number[][]).map(([x = 0, y = 0]) => ({ x, y })) }] : [],
  );
  const style = { left: box.left, top: box.top, width: box.width, height: box.height };
  return (
    <div
      ref={ref}
      className={`figure-stage on-${ground}`}
      data-busy={work.busy ? "yes" : "no"}
      onPointerMove={(event) => setHover(at(event.clientX, event.clientY))}
      onPointerLeave={() => setHover(null)}
    >
      <div className="see-through" style={style} />
      <img src={photo.preview} alt={photo.name} className={work.shown ? "faded" : ""} style={style} draggable={false} />
      {work.shown && <img src={work.shown} alt="The figure as it will be cut out" style={style} draggable={false} />}
      <svg className="handles drawing" aria-label="The figure's outline" {...bind()}>
        <rect width="100%" height="100%" fill="transparent" />
        {polygons.map(({ k, points }) => {
          const d = `${points.map((p, n) => `${n ? "L" : "M"}${stage(p).x.toFixed(1)} ${stage(p).y.toFixed(1)}`).join("")}z`;
          return (
            <g key={k} pointerEvents="none">
              <path d={d} fill="none" stroke="var(--trace-edge)" strokeWidth={3} />
              <path d={d} fill="none" stroke="var(--trace)" strokeWidth={1.4} strokeDasharray="5 4" />
            </g>
          );
        })}
        {work.doubtful.length > 0 && (
          <pattern id="doubtful" width={9} height={9} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
            <rect width={3} height={9} fill="var(--trace)" fillOpacity={0.3} />
          </pattern>
        )}
        {work.doubtful.map(([left = 0, top = 0, right = 0, bottom = 0]) => {
          const [from, to] = [stage({ x: left, y: top }), stage({ x: right, y: bottom })];
          return (
            <rect
              key={`${left} ${top} ${right} ${bottom}`}
              data-doubtful
              {...{ x: from.x, y: from.y, width: to.x - from.x, height: to.y - from.y }}
              fill="url(#doubtful)"
              pointerEvents="none"
            />
          );
        })}
        {tool === "box" && a && b && (
          <rect
            x={Math.min(stage(a).x, stage(b).x)}
            y={Math.min(stage(a).y, stage(b).y)}
            width={Math.abs(stage(a).x - stage(b).x)}
            height={Math.abs(stage(a).y - stage(b).y)}
            fill="var(--coral-fill)"
            stroke="var(--trace)"
            strokeWidth={2}
          />
        )}
        {(tool === "add" || tool === "remove") && (
          <>
            {path && (
              <path
                d={line.length > 1 ? path : `${path}l0.1 0`}
                fill="none"
                stroke={tool === "add" ? "var(--moss)" : "var(--coral)"}
                strokeOpacity={0.5}
                strokeWidth={2 * radius * perUnit(box)}
                strokeLinecap="round"
                strokeLinejoin="round"
              />
            )}
            {hover && (
              <circle
                {...{ cx: stage(hover).x, cy: stage(hover).y }}
                r={radius * perUnit(box)}
                fill="none"
                stroke="var(--trace)"
                strokeWidth={1.5}
                pointerEvents="none"
              />
            )}
          </>
        )}
        {tool === "points" &&
          figure.outline &&
          polygons.flatMap(({ k, points }) =>
            points.map((point, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a point has no name but its number
              <g key={`${k} ${points.length} ${n}`} className="corner">
                <Knob
                  label={`Point ${n + 1}`}
                  placed={box}
                  at={point}
                  onMove={({ to, gesture }) =>
                    figure.outline && change({ outline: movedCorner(figure.outline, k, n, to), search: null }, gesture)
                  }
                  onReset={() => figure.outline && change({ outline: withoutCorner(figure.outline, k, n), search: null })}
                  onDragging={() => undefined}
                />
              </g>
            )),
          )}
      </svg>
      <div className="figure-view">
        <span role="status" aria-label="Zoom">
          {zoomWords(view.zoom)}
        </span>
        <Button size="small" disabled={view === FITS} onClick={() => setView(FITS)}>
          Fit
        </Button>
      </div>
      {work.search.isPending && <Spin className="stage-wait" description="Looking for the figure" />}
    </div>
  );
}
