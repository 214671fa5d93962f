/** Where a picture lies on the stage, and how to go between stage pixels and frame units (docs/coordinates.md). */
export interface Placed {
  left: number;
  top: number;
  width: number;
  height: number;
  /** Turned about its middle, in turns, clockwise; and flipped left to right before that. */
  turn?: number;
  flip?: boolean;
}

export interface Point {
  x: number;
  y: number;
}

/** Stage pixels per frame unit: half the shorter side is one unit. */
export const perUnit = (placed: Placed): number => Math.min(placed.width, placed.height) / 2;

export const middleOf = (placed: Placed): Point => ({ x: placed.left + placed.width / 2, y: placed.top + placed.height / 2 });

/** Turn a way on the screen back into the way it is in an unturned, unflipped box. */
export function unturned(placed: Placed, way: Point): Point {
  const angle = -2 * Math.PI * (placed.turn ?? 0);
  const x = way.x * Math.cos(angle) - way.y * Math.sin(angle);
  const y = way.x * Math.sin(angle) + way.y * Math.cos(angle);
  return { x: placed.flip ? -x : x, y };
}

/** Where a point of the screen lies in the unturned box, which is where handles are drawn. */
export function fromScreen(placed: Placed, point: Point): Point {
  const middle = middleOf(placed);
  const way = unturned(placed, { x: point.x - middle.x, y: point.y - middle.y });
  return { x: middle.x + way.x, y: middle.y + way.y };
}

/** Where a point of the unturned box is seen on the screen. */
export function toScreen(placed: Placed, point: Point): Point {
  const middle = middleOf(placed);
  const angle = 2 * Math.PI * (placed.turn ?? 0);
  const [x, y] = [(point.x - middle.x) * (placed.flip ? -1 : 1), point.y - middle.y];
  return { x: middle.x + x * Math.cos(angle) - y * Math.sin(angle), y: middle.y + x * Math.sin(angle) + y * Math.cos(angle) };
}

/** What turns and flips drawings in the unturned box as the picture is. */
export function transformOf(placed: Placed): string | undefined {
  if (!placed.turn && !placed.flip) return undefined;
  const { x, y } = middleOf(placed);
  return `translate(${x} ${y}) rotate(${(placed.turn ?? 0) * 360}) scale(${placed.flip ? -1 : 1} 1) translate(${-x} ${-y})`;
}

/** Half sides of a frame in its units. */
export const halfOf = (ratio: number): Point => ({ x: Math.max(ratio, 1), y: Math.max(1 / ratio, 1) });

/** Where a layer lies on the stage when the piece does, by its frame, its fit and its place. */
export function placedLayer(
  piece: Placed,
  pieceRatio: number,
  layerRatio: number,
  contain: boolean,
  spot: { x: number; y: number; scale: number; turn: number; flip: boolean } | null | undefined,
): Placed {
  const [p, l] = [halfOf(pieceRatio), halfOf(layerRatio)];
  const fit = contain ? Math.min(p.x / l.x, p.y / l.y) : Math.max(p.x / l.x, p.y / l.y);
  const unit = perUnit(piece) * fit * (spot?.scale ?? 1);
  const angle = 2 * Math.PI * (piece.turn ?? 0);
  const [dx, dy] = [(spot?.x ?? 0) * perUnit(piece) * (piece.flip ? -1 : 1), (spot?.y ?? 0) * perUnit(piece)];
  const middle = middleOf(piece);
  const x = middle.x + dx * Math.cos(angle) - dy * Math.sin(angle);
  const y = middle.y + dx * Math.sin(angle) + dy * Math.cos(angle);
  const turn = (piece.turn ?? 0) + (spot?.turn ?? 0) * (piece.flip ? -1 : 1);
  const flip = Boolean(piece.flip) !== Boolean(spot?.flip);
  return { left: x - l.x * unit, top: y - l.y * unit, width: 2 * l.x * unit, height: 2 * l.y * unit, turn, flip };
}

export const toStage = (placed: Placed, { x, y }: Point): Point => ({
  x: placed.left + placed.width / 2 + x * perUnit(placed),
  y: placed.top + placed.height / 2 + y * perUnit(placed),
});

export const toFrame = (placed: Placed, { x, y }: Point): Point => ({
  x: (x - placed.left - placed.width / 2) / perUnit(placed),
  y: (y - placed.top - placed.height / 2) / perUnit(placed),
});

/** Angle of a direction in turns: 0 is up, clockwise positive, 0…1. */
export function turnsOf({ x, y }: Point): number {
  const turns = Math.atan2(x, -y) / (2 * Math.PI);
  return turns < 0 ? turns + 1 : turns;
}

/** The point at a distance in the direction of `turns` from a centre. */
export const polar = (centre: Point, turns: number, distance: number): Point => ({
  x: centre.x + distance * Math.sin(2 * Math.PI * turns),
  y: centre.y - distance * Math.cos(2 * Math.PI * turns),
});

export const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value));

/** The nearest line of the snapping grid, in units. */
export const toGrid = (value: number): number => Math.round(value * 20) / 20;

export const round = (value: number, places = 4): number => Number(value.toFixed(places));

/** Place a picture of this size in the middle of a room, as large as `zoom` times what fits, moved by `pan`. */
export function place(
  picture: { width: number; height: number },
  room: { width: number; height: number },
  zoom: number,
  pan: Point,
): Placed {
  const margin = 14;
  const fit = Math.min((room.width - 2 * margin) / picture.width, (room.height - 2 * margin) / picture.height);
  const width = picture.width * fit * zoom;
  const height = picture.height * fit * zoom;
  // On whole pixels, so that a pixel of the picture can be one of the screen.
  return { left: Math.round((room.width - width) / 2 + pan.x), top: Math.round((room.height - height) / 2 + pan.y), width, height };
}

/** Where something lies that is placed as a picture is, as a style. */
export const boxStyle = (box: Placed) => ({
  left: box.left,
  top: box.top,
  width: box.width,
  height: box.height,
  transform: `rotate(${box.turn ?? 0}turn) scaleX(${box.flip ? -1 : 1})`,
});
