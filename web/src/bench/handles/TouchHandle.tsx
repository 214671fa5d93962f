import { type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import { fromScreen, type Point, round, toFrame, toStage } from "../model/geometry";
import { layerOf } from "../model/piece";
import { ringBefore } from "../model/settings";
import { movedStroke, radiusOn, type Stroke, sourceFor, sourceOf, storedPoints, takesSource } from "../model/touch";
import { useBench, useBenchPart } from "../store";
import { useDoubles } from "../useDoubles";
import { Knob } from "./Knob";
import { Stroke as Line, Round } from "./parts";
import { type Seen, StrokePreview } from "./StrokePreview";
import type { HandleProps } from "./types";
import "./TouchHandle.css";

type Pressed = Point & { pressure: number };

/** The picture of the stage an SVG lies on. */
function seenUnder(node: Element | null): { image: HTMLImageElement; seen: Seen } | null {
  const image = [...(node?.closest(".stage")?.querySelectorAll<HTMLImageElement>(":scope > .picture-side > img:not(.under)") ?? [])].at(-1);
  if (!image) return null;
  return {
    image,
    seen: { url: image.src, left: image.offsetLeft, top: image.offsetTop, width: image.offsetWidth, height: image.offsetHeight },
  };
}

/** The colour of the seen picture at a point of the stage. */
function colourAt(image: HTMLImageElement, seen: Seen, at: Point): string | null {
  const canvas = document.createElement("canvas");
  canvas.width = canvas.height = 1;
  const pen = canvas.getContext("2d");
  const [x, y] = [((at.x - seen.left) / seen.width) * image.naturalWidth, ((at.y - seen.top) / seen.height) * image.naturalHeight];
  if (!pen || x < 0 || y < 0 || x >= image.naturalWidth || y >= image.naturalHeight) return null;
  pen.drawImage(image, Math.floor(x), Math.floor(y), 1, 1, 0, 0, 1, 1);
  const [r = 0, g = 0, b = 0] = pen.getImageData(0, 0, 1, 1).data;
  return `#${[r, g, b].map((part) => part.toString(16).padStart(2, "0")).join("")}`;
}

/** The brush: paints strokes, outlines patches and drags them to better texture, takes sources and colours from the picture. */
export function TouchHandle({ settings, placed, set, dragging }: HandleProps) {
  const { touch, tool, stroke: chosen, picking, layer, selected, patch } = useBenchPart(
    "touch", "tool", "stroke", "picking", "layer", "selected", "patch",
  ); // biome-ignore format: names alone
  const document = useBench((state) => state.history.present.document);
  const strokes = (settings.strokes ?? []) as unknown as Stroke[];
  const group = useRef<SVGGElement>(null);
  const [points, setPoints] = useState<Pressed[]>([]);
  const [hover, setHover] = useState<Point | null>(null);
  /** An outline that waits to be dragged to its source, and how far it was dragged. */
  const [area, setArea] = useState<{ outline: number[][]; from: Point | null; way: Point } | null>(null);
  /** Strokes made that the picture does not show yet. */
  const [late, setLate] = useState<Stroke[]>([]);
  const steps = layerOf(document, layer).steps;
  const at = steps.findIndex((one) => one.id === selected);
  const ring = ringBefore(steps, at);
  useEffect(() => {
    patch({ tool: "touch" });
    return () => {
      if (useBench.getState().tool === "touch") patch({ tool: null });
    };
  }, [patch]);
  // A new picture shows what was guessed.
  useEffect(() => {
    const found = seenUnder(group.current);
    if (!found || !late.length) return;
    const watch = new MutationObserver(() => setLate([]));
    watch.observe(found.image, { attributes: true, attributeFilter: ["src"] });
    return () => watch.disconnect();
  }, [late]);
  const where = useCallback(
    (event: PointerEvent): Point => {
      const box = group.current?.ownerSVGElement?.getBoundingClientRect();
      return toFrame(placed, fromScreen(placed, { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) }));
    },
    [placed],
  );
  const usesSource = takesSource(touch.mode);
  const made = (shape: Pick<Stroke, "points" | "outline">, source: Stroke["source"]): Stroke => ({
    mode: touch.mode,
    ...shape,
    radius: touch.radius,
    hardness: touch.hardness,
    opacity: touch.opacity,
    colour: touch.mode === "colour" ? touch.colour : null,
    source,
    on: true,
  });
  const none: Stroke["source"] = { dx: 0, dy: 0, turn: 0, scale: 1, about: null };
  const sourceFrom = (from: Point): Stroke["source"] => {
    if (!usesSource || !touch.anchor) return none;
    if (touch.kept && !touch.fixed) return touch.kept.about ? touch.kept : { ...touch.kept };
    return sourceFor(touch, touch.anchor, from, ring);
  };
  const add = (next: Stroke) => {
    set({ strokes: [...strokes, next] as never }, `stroke-${strokes.length}-${Date.now()}`);
    setLate([...late, next]);
    if (usesSource && !next.outline.length && !touch.kept) patch({ touch: { ...touch, kept: next.source } });
  };
  const pick = (event: PointerEvent, spot: Point) => {
    if (touch.mode === "colour") {
      const found = seenUnder(group.current);
      const box = group.current?.ownerSVGElement?.getBoundingClientRect();
      const colour =
        found &&
        colourAt(found.image, found.seen, fromScreen(placed, { x: event.clientX - (box?.left ?? 0), y: event.clientY - (box?.top ?? 0) }));
      if (colour) patch({ touch: { ...touch, colour }, picking: false });
    } else patch({ touch: { ...touch, anchor: spot, kept: null }, picking: false });
  };
  const down = (event: PointerEvent<SVGRectElement>) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    const spot = where(event);
    if (area && !area.from) {
      event.currentTarget.setPointerCapture(event.pointerId);
      setArea({ ...area, from: spot });
      return;
    }
    if (picking || (usesSource && !touch.patch && !touch.anchor)) {
      pick(event, spot);
      return;
    }
    event.currentTarget.setPointerCapture(event.pointerId);
    setPoints([{ ...spot, pressure: event.pointerType === "pen" ? event.pressure : 1 }]);
    patch({ stroke: null });
  };
  const move = (event: PointerEvent<SVGRectElement>) => {
    const spot = where(event);
    setHover(spot);
    if (area?.from) setArea({ ...area, way: { x: spot.x - area.from.x, y: spot.y - area.from.y } });
    else if (points.length) {
      event.stopPropagation();
      const all = event.nativeEvent.getCoalescedEvents?.() ?? [];
      const more = (all.length ? all : [event.nativeEvent]).map((one) => ({
        ...where(one as unknown as PointerEvent),
        pressure: event.pointerType === "pen" ? one.pressure : 1,
      }));
      setPoints([...points, ...more]);
    }
  };
  const up = () => {
    if (area?.from) {
      const far = Math.hypot(area.way.x, area.way.y);
      setArea(null);
      if (far > 0.005) add(made({ points: [], outline: area.outline }, { ...none, dx: round(area.way.x), dy: round(area.way.y) }));
      return;
    }
    const [first] = points;
    setPoints([]);
    if (!first) return;
    if (touch.patch) {
      const outline = storedPoints(points).map(([x = 0, y = 0]) => [x, y]);
      if (outline.length < 3) return;
      if (usesSource) setArea({ outline, from: null, way: { x: 0, y: 0 } });
      else add(made({ points: [], outline }, none));
      return;
    }
    add(made({ points: storedPoints(points), outline: [] }, sourceFrom(first)));
  };
  const [first] = points;
  const drawn =
    first && !touch.patch ? made({ points: points.map(({ x, y, pressure }) => [x, y, pressure]), outline: [] }, sourceFrom(first)) : null;
  const lasso = first && touch.patch ? points.map(({ x, y }) => [x, y]) : (area?.outline ?? null);
  const dragged = area ? made({ points: [], outline: area.outline }, { ...none, dx: area.way.x, dy: area.way.y }) : null;
  const tip = points.at(-1) ?? hover;
  const from =
    tip && usesSource && touch.anchor && !touch.patch
      ? sourceOf(drawn ?? made({ points: [[tip.x, tip.y, 1]], outline: [] }, sourceFrom(tip)), tip)
      : null;
  const seen = late.length || drawn || dragged ? (seenUnder(group.current)?.seen ?? null) : null;
  const own = chosen === null ? undefined : strokes[chosen];
  const painting = tool === "touch";
  const doubles = useDoubles();
  return (
    <g ref={group} className={painting ? "drawing" : undefined}>
      {painting && (
        <rect
          className={`touch-ground ${picking ? "picking" : ""}`}
          x={-1e5}
          y={-1e5}
          width={2e5}
          height={2e5}
          fill="transparent"
          onPointerDown={down}
          onPointerMove={move}
          onPointerUp={up}
          onPointerCancel={() => setPoints([])}
          onPointerLeave={() => setHover(null)}
        />
      )}
      {late.map((one, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a stroke is known by its order alone
        <StrokePreview key={n} stroke={one} placed={placed} seen={seen} />
      ))}
      {drawn && <StrokePreview stroke={drawn} placed={placed} seen={seen} />}
      {dragged && area?.from && <StrokePreview stroke={dragged} placed={placed} seen={seen} />}
      {lasso && <Lasso points={lasso} placed={placed} closed={!first} />}
      {area?.from && <Lasso points={area.outline.map(([x = 0, y = 0]) => [x + area.way.x, y + area.way.y])} placed={placed} closed />}
      {painting && tip && !touch.patch && <Round centre={toStage(placed, tip)} radius={radiusOn(placed, touch.radius)} />}
      {from && tip && (
        <g opacity={0.9} pointerEvents="none">
          <Line from={toStage(placed, from)} to={toStage(placed, tip)} dash="2 5" />
          <Round centre={toStage(placed, from)} radius={radiusOn(placed, touch.radius) / touch.scale} dash="4 4" />
        </g>
      )}
      {touch.anchor && painting && !tip && usesSource && <Round centre={toStage(placed, touch.anchor)} radius={9} />}
      {doubles?.map((one) => (
        <g key={`${one.x} ${one.y}`} className="double" pointerEvents="none">
          <Line
            from={toStage(placed, { x: one.from_x, y: one.from_y })}
            to={toStage(placed, one)}
            colour="var(--coral-bright)"
            dash="3 6"
          />
          {[one, { x: one.from_x, y: one.from_y }].map((at) => (
            <circle
              key={`${at.x} ${at.y}`}
              {...{ cx: toStage(placed, at).x, cy: toStage(placed, at).y }}
              r={radiusOn(placed, one.radius)}
              fill="none"
              stroke="var(--coral-bright)"
              strokeWidth={2.5}
            />
          ))}
        </g>
      ))}
      {own && chosen !== null && (
        <Chosen
          stroke={own}
          placed={placed}
          change={(next, gesture) => set({ strokes: strokes.map((one, n) => (n === chosen ? next : one)) as never }, gesture)}
          dragging={dragging}
        />
      )}
    </g>
  );
}

function Lasso({ points, placed, closed }: { points: number[][]; placed: HandleProps["placed"]; closed?: boolean }) {
  const d = `M${points
    .map(([x = 0, y = 0]) => {
      const spot = toStage(placed, { x, y });
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
function Chosen({ stroke, placed, change, dragging }: ChosenProps) {
  const first = (stroke.points[0] ?? stroke.outline[0] ?? []) as number[];
  const spot = { x: first[0] ?? 0, y: first[1] ?? 0 };
  const source = sourceOf(stroke, spot);
  const linked = takesSource(stroke.mode);
  return (
    <g>
      <Lasso
        points={[...stroke.points, ...stroke.outline, ...(stroke.points.length === 1 ? stroke.points : [])]}
        placed={placed}
        closed={stroke.outline.length > 0}
      />
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
