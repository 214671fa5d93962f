import { type PointerEvent, useCallback, useEffect, useRef, useState } from "react";
import { fromScreen, type Point, round, toFrame, toStage } from "../model/geometry";
import {
  type Drawn,
  packed,
  radiusOn,
  type Stroke,
  sourceFor,
  sourceOf,
  storedLine,
  storedOutline,
  takesSource,
  UNDRAWN,
  unpacked,
} from "../model/touch";
import { useBench, useBenchPart } from "../store";
import { useDoubles } from "../useDoubles";
import { useRingCentre } from "../useInForce";
import { Stroke as Line, Round } from "./parts";
import { Chosen, Lasso } from "./StrokeHandles";
import { StrokePreview } from "./StrokePreview";
import { colourAt, seenUnder } from "./seen";
import type { HandleProps } from "./types";
import { useHealing } from "./useHealing";
import "./TouchHandle.css";

type Pressed = Point & { pressure: number };

/** The brush: paints strokes, outlines patches and drags them to better texture, takes sources and colours from the picture. */
export function TouchHandle({ settings, placed, set, dragging }: HandleProps) {
  const { touch, tool, stroke: chosen, picking, layer, selected, patch } = useBenchPart(
    "touch", "tool", "stroke", "picking", "layer", "selected", "patch",
  ); // biome-ignore format: names alone
  const strokes = (settings.strokes ?? []) as Stroke[];
  const group = useRef<SVGGElement>(null);
  const [points, setPoints] = useState<Pressed[]>([]);
  const [hover, setHover] = useState<Point | null>(null);
  /** An outline that waits to be dragged to its source, and how far it was dragged. */
  const [area, setArea] = useState<{ outline: number[]; from: Point | null; way: Point } | null>(null);
  /** Strokes made that the picture does not show yet. */
  const [late, setLate] = useState<Stroke[]>([]);
  const ring = useRingCentre(layer, selected ?? "");
  useEffect(() => {
    patch({ tool: "touch" });
    return () => {
      if (useBench.getState().tool === "touch") patch({ tool: null });
    };
  }, [patch]);
  // An outline that waits is cancelled with the brush, and with another thing to do.
  // biome-ignore lint/correctness/useExhaustiveDependencies: it is their change that counts
  useEffect(() => setArea(null), [tool, touch.mode, touch.patch]);
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
  const { sought, heal } = useHealing();
  const made = (shape: Drawn, source: Stroke["source"]): Stroke => ({
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
    if (touch.kept && !touch.fixed) return touch.kept;
    return sourceFor(touch, touch.anchor, from, ring);
  };
  const add = (next: Stroke, onto = strokes) => {
    set({ strokes: [...onto, next] }, `stroke-${onto.length}-${Date.now()}`);
    setLate((now) => [...now, next]);
    if (usesSource && touch.anchor && !next.outline.length && !touch.kept) patch({ touch: { ...touch, kept: next.source } });
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
    if (picking || (touch.mode === "clone" && !touch.patch && !touch.anchor)) {
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
      if (far > 0.005) add(made({ ...UNDRAWN, outline: area.outline }, { ...none, dx: round(area.way.x), dy: round(area.way.y) }));
      return;
    }
    const [first] = points;
    setPoints([]);
    if (!first) return;
    if (touch.patch) {
      const shape = storedOutline(points);
      if (!shape) return;
      if (usesSource) setArea({ outline: shape.outline, from: null, way: { x: 0, y: 0 } });
      else add(made(shape, none));
      return;
    }
    const next = made(storedLine(points), sourceFrom(first));
    if (touch.mode === "heal" && !touch.anchor) heal(next, add);
    else add(next);
  };
  const [first] = points;
  const drawn =
    first && !touch.patch
      ? {
          ...made({ ...UNDRAWN, line: packed(points), pressure: points.map(({ pressure }) => pressure) }, sourceFrom(first)),
          // Where its source is not known yet, only the place is shown.
          ...(touch.mode === "heal" && !touch.anchor ? { mode: "fill-in" as const } : {}),
        }
      : null;
  const outlined = area && unpacked(area.outline);
  const lasso = first && touch.patch ? points : outlined;
  const dragged = area ? made({ ...UNDRAWN, outline: area.outline }, { ...none, dx: area.way.x, dy: area.way.y }) : null;
  const tip = points.at(-1) ?? hover;
  const from =
    tip && usesSource && touch.anchor && !touch.patch
      ? sourceOf(drawn ?? made({ ...UNDRAWN, line: packed([tip]) }, sourceFrom(tip)), tip)
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
      {sought.map((one, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a stroke is known by its order alone
        <StrokePreview key={n} stroke={{ ...one, mode: "fill-in" }} placed={placed} seen={seen} />
      ))}
      {drawn && <StrokePreview stroke={drawn} placed={placed} seen={seen} />}
      {dragged && area?.from && <StrokePreview stroke={dragged} placed={placed} seen={seen} />}
      {lasso && <Lasso points={lasso} placed={placed} closed={!first} />}
      {area?.from && outlined && (
        <Lasso points={outlined.map(({ x, y }) => ({ x: x + area.way.x, y: y + area.way.y }))} placed={placed} closed />
      )}
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
          change={(next, gesture) => set({ strokes: strokes.map((one, n) => (n === chosen ? next : one)) }, gesture)}
          dragging={dragging}
        />
      )}
    </g>
  );
}
