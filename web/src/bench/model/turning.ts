import { allLayers, isSingle, keepOf, type PieceDocument, type Settings, type Step } from "./piece";

/** A turn of the whole picture about a point in units of its frame, in turns, clockwise. */
export interface Turning {
  turns: number;
  x: number;
  y: number;
}

const number = (settings: Settings, name: string, usual: number): number => Number(settings[name] ?? usual);

/** Kinds that turn the picture by one of their settings as it is, and about what. */
const TURNING: Record<string, { by: string; about: (settings: Settings) => { x: number; y: number } | null }> = {
  turn: { by: "angle", about: () => ({ x: 0, y: 0 }) },
  ring: {
    by: "seam",
    about: (settings) => (number(settings, "amount", 1) === 1 ? { x: number(settings, "x", 0), y: number(settings, "y", 0) } : null),
  },
};

const actsOnAll = (step: Step): boolean =>
  !step.where && (step.strength ?? 1) === 1 && (step.blend ?? "normal") === "normal" && (step.channels?.length ?? 3) === 3;

/** How the picture of one document must be turned to be that of the other, where that is all that lies between them; else null. */
export function turnedBetween(before: PieceDocument, now: PieceDocument): Turning | null {
  if (before === now || !isSingle(before) || !isSingle(now)) return null;
  const [[old], [layer]] = [allLayers(before), allLayers(now)];
  if (!old || !layer || old.source !== layer.source || keepOf(layer.source).length || old.steps.length !== layer.steps.length) return null;
  const [index, ...more] = layer.steps.flatMap((step, n) => (step === old.steps[n] ? [] : [n]));
  const [first, second] = [old.steps[index ?? -1], layer.steps[index ?? -1]];
  if (!first || !second || more.length || first.kind !== second.kind || !actsOnAll(first) || !actsOnAll(second)) return null;
  const kind = TURNING[second.kind];
  const about = kind?.about(second.settings);
  if (!kind || !about) return null;
  const names = new Set([...Object.keys(first.settings), ...Object.keys(second.settings)]);
  const changed = [...names].filter((name) => first.settings[name] !== second.settings[name]);
  const [from, to] = [first.settings[kind.by], second.settings[kind.by]];
  if (changed.join() !== kind.by || typeof from !== "number" || typeof to !== "number") return null;
  return { turns: to - from, ...about };
}
