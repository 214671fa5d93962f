import type { Kind } from "../../api/client";
import { type PieceDocument, type Step, stepsOf } from "./piece";

/** Kinds whose handles lie on the picture as it was before the step. */
const ON_BEFORE = new Set(["crop-box", "level-line"]);
const BEFORE_KINDS = new Set(["unring"]);

/** Stands in the selection for the layer's source, and for the layer itself. */
export const SOURCE = "@source";
export const LAYER = "@layer";

export interface View {
  /** How many steps of the layer are shown, alone; null shows the finished piece. */
  upto: number | null;
  /** Whether the handles of the selected step fit what is shown. */
  handles: boolean;
}

export const FINISHED: View = { upto: null, handles: false };

/**
 * Choose what to show for a selected step: the finished piece where its handles still fit it (nothing after it in its layer moves
 * pixels), else the layer just after it, or just before it for handles that lie there.
 */
export function viewFor(steps: Step[], kinds: Map<string, Kind>, selected: string | null): View {
  if (selected === SOURCE) return { upto: 0, handles: false };
  const index = steps.findIndex((step) => step.id === selected);
  const step = steps[index];
  const kind = step && kinds.get(step.kind);
  if (!step || !kind || step.on === false) return { upto: null, handles: false };
  if (kind.handles.some((name) => ON_BEFORE.has(name)) || BEFORE_KINDS.has(kind.key)) return { upto: index, handles: true };
  const later = steps.slice(index + 1).filter((s) => s.on !== false);
  const moving = later.some((s) => kinds.get(s.kind)?.geometric ?? true);
  return { upto: moving ? index + 1 : null, handles: true };
}

/** The step that makes a new piece what it is: its last bend; null where it has none. */
export const mainStep = (document: PieceDocument, kinds: Map<string, Kind>): string | null =>
  stepsOf(document).findLast((step) => kinds.get(step.kind)?.family === "bend")?.id ?? null;
