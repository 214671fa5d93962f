import { Knob } from "../handles/Knob";
import { Round, Stroke } from "../handles/parts";
import { clamp, type Placed, type Point, perUnit, polar, round, toStage, turnsOf } from "../model/geometry";
import type { Shape } from "../model/piece";

interface Props {
  shape: Shape;
  placed: Placed;
  chosen: boolean;
  set: (change: Partial<Shape>, gesture: string) => void;
  onChoose: () => void;
  onDragging: (dragging: boolean) => void;
}

const SNAP = 1 / 24;
const value = (shape: Shape, name: string) => Number(shape[name] ?? 0);
/** Where a shape is picked: its middle, or where it was begun. */
const middle = (shape: Shape): Point => {
  const first = (shape.points as number[][] | undefined)?.[0];
  return first ? { x: first[0] ?? 0, y: first[1] ?? 0 } : { x: value(shape, "x"), y: value(shape, "y") };
};

/** A point about the shape's middle, turned with it. */
const about = (shape: Shape, x: number, y: number): Point => {
  const angle = 2 * Math.PI * value(shape, "turn");
  return {
    x: value(shape, "x") + x * Math.cos(angle) - y * Math.sin(angle),
    y: value(shape, "y") + x * Math.sin(angle) + y * Math.cos(angle),
  };
};

const path = (points: Point[], placed: Placed, closed: boolean): string =>
  points
    .map(
      (p, n) =>
        `${n ? "L" : "M"}${Object.values(toStage(placed, p))
          .map((v) => v.toFixed(1))
          .join(" ")}`,
    )
    .join("") + (closed ? "z" : "");

/** The drawn edge of a shape. */
function Outline({ shape, placed }: { shape: Shape; placed: Placed }) {
  const line = (d: string, wide = 2) => (
    <>
      <path d={d} fill="none" stroke="var(--trace-edge)" strokeWidth={wide + 2} strokeLinejoin="round" />
      <path d={d} fill="none" stroke="var(--trace)" strokeWidth={wide} strokeDasharray="6 5" strokeLinejoin="round" />
    </>
  );
  const [rx, ry] = [value(shape, "rx"), value(shape, "ry")];
  if (shape.kind === "rectangle")
    return line(path([about(shape, -rx, -ry), about(shape, rx, -ry), about(shape, rx, ry), about(shape, -rx, ry)], placed, true));
  if (shape.kind === "ellipse") {
    const round_ = Array.from({ length: 72 }, (_, n) => about(shape, rx * Math.cos((n * Math.PI) / 36), ry * Math.sin((n * Math.PI) / 36)));
    return line(path(round_, placed, true));
  }
  const points = ((shape.points as number[][] | undefined) ?? []).map(([x = 0, y = 0]) => ({ x, y }));
  if (shape.kind === "polygon") return line(path(points, placed, true));
  if (shape.kind === "stroke") return line(path(points.length > 1 ? points : [...points, ...points], placed, false), 1);
  if (shape.kind === "radial") {
    return (
      <>
        <Round centre={toStage(placed, middle(shape))} radius={value(shape, "inner") * perUnit(placed)} />
        <Round centre={toStage(placed, middle(shape))} radius={value(shape, "outer") * perUnit(placed)} dash="6 5" />
      </>
    );
  }
  if (shape.kind === "linear") {
    const tip = polar(middle(shape), value(shape, "heading"), value(shape, "reach"));
    return <Stroke from={toStage(placed, middle(shape))} to={toStage(placed, tip)} colour="var(--coral)" />;
  }
  return null;
}

/** The knobs of a chosen shape. */
function Knobs({ shape, placed, set, onDragging }: Props) {
  const shared = { placed, onDragging };
  const centre = middle(shape);
  const move = (
    <Knob
      {...shared}
      label="Shape, move"
      grid
      at={centre}
      onMove={({ to, gesture }) => set({ x: round(clamp(to.x, -20, 20)), y: round(clamp(to.y, -20, 20)) }, gesture)}
      onReset={() => set({ x: 0, y: 0 }, "reset")}
    />
  );
  if (shape.kind === "rectangle" || shape.kind === "ellipse") {
    const turn = value(shape, "turn");
    const local = (to: Point) => {
      const angle = -2 * Math.PI * turn;
      const [dx, dy] = [to.x - centre.x, to.y - centre.y];
      return { x: Math.abs(dx * Math.cos(angle) - dy * Math.sin(angle)), y: Math.abs(dx * Math.sin(angle) + dy * Math.cos(angle)) };
    };
    const diagonal = shape.kind === "ellipse" ? Math.SQRT1_2 : 1;
    const corner = about(shape, value(shape, "rx") * diagonal, value(shape, "ry") * diagonal);
    return (
      <>
        {move}
        <Knob
          {...shared}
          label="Shape, size"
          at={corner}
          onMove={({ to, snap, gesture }) => {
            const { x, y } = local(to);
            const ratio = value(shape, "ry") / Math.max(value(shape, "rx"), 1e-6);
            const rx = clamp(x / diagonal, 0.01, 20);
            set({ rx: round(rx), ry: round(clamp(snap ? rx * ratio : y / diagonal, 0.01, 20)) }, gesture);
          }}
        />
        <Knob
          {...shared}
          label="Shape, turn"
          look="coral"
          at={about(shape, 0, -value(shape, "ry") - 0.14)}
          onMove={({ to, snap, gesture }) => {
            const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
            set({ turn: round(snap ? Math.round(there / SNAP) * SNAP : there) }, gesture);
          }}
          onReset={() => set({ turn: 0 }, "reset")}
        />
      </>
    );
  }
  if (shape.kind === "linear") {
    return (
      <>
        {move}
        <Knob
          {...shared}
          label="Fade, end"
          look="coral"
          at={polar(centre, value(shape, "heading"), value(shape, "reach"))}
          onMove={({ to, snap, gesture }) => {
            const way = { x: to.x - centre.x, y: to.y - centre.y };
            const there = turnsOf(way);
            set(
              { heading: round(snap ? Math.round(there / SNAP) * SNAP : there), reach: round(clamp(Math.hypot(way.x, way.y), 0.01, 20)) },
              gesture,
            );
          }}
        />
      </>
    );
  }
  if (shape.kind === "radial") {
    const radius = (name: "inner" | "outer", turns: number, label: string) => (
      <Knob
        {...shared}
        label={label}
        look={name === "outer" ? "coral" : "plain"}
        at={polar(centre, turns, value(shape, name))}
        onMove={({ to, gesture }) => set({ [name]: round(clamp(Math.hypot(to.x - centre.x, to.y - centre.y), 0, 20)) }, gesture)}
      />
    );
    return (
      <>
        {move}
        {radius("inner", 0.25, "Round fade, inner")}
        {radius("outer", 0, "Round fade, outer")}
      </>
    );
  }
  return null;
}

/** A shape of a where on the picture: its edge, and knobs when it is chosen. */
export function ShapeHandles(props: Props) {
  const { shape, placed, chosen, onChoose } = props;
  const pickable = shape.kind !== "light" && shape.kind !== "hue" && shape.kind !== "bands";
  return (
    <g opacity={chosen ? 1 : 0.7}>
      <Outline shape={shape} placed={placed} />
      {pickable && !chosen && (
        // biome-ignore lint/a11y/noStaticElementInteractions: the list in the panel chooses shapes by keyboard
        <g className="knob" onClick={onChoose}>
          <circle
            {...{ cx: toStage(placed, middle(shape)).x, cy: toStage(placed, middle(shape)).y }}
            r={9}
            fill="var(--trace)"
            opacity={0.75}
          />
        </g>
      )}
      {chosen && <Knobs {...props} />}
    </g>
  );
}
