/** Where a picture lies on the stage, and how to go between stage pixels and frame units (DESIGN section 3). */
export interface Placed {
  left: number;
  top: number;
  width: number;
  height: number;
}

export interface Point {
  x: number;
  y: number;
}

/** Stage pixels per frame unit: half the shorter side is one unit. */
export const perUnit = (placed: Placed): number => Math.min(placed.width, placed.height) / 2;

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
  return { left: (room.width - width) / 2 + pan.x, top: (room.height - height) / 2 + pan.y, width, height };
}
