import type { Kind } from "../../api/client";
import type { Step } from "./piece";

/** Kinds whose handles lie on the picture as it was before the step. */
const ON_BEFORE = new Set(["crop-box", "level-line"]);
const BEFORE_KINDS = new Set(["unring"]);

export interface View {
  /** How many steps of the trail are shown. */
  upto: number;
  /** Whether the handles of the selected step fit what is shown. */
  handles: boolean;
}

/**
 * Choose which stage of the trail to show for a selected step: the finished picture where its handles still fit it (nothing after it
 * moves pixels), else the picture just after it, or just before it for handles that lie there.
 */
export function viewFor(steps: Step[], kinds: Map<string, Kind>, selected: string | null): View {
  const index = steps.findIndex((step) => step.id === selected);
  const step = steps[index];
  const kind = step && kinds.get(step.kind);
  if (!step || !kind || step.on === false) return { upto: steps.length, handles: false };
  if (kind.handles.some((name) => ON_BEFORE.has(name)) || BEFORE_KINDS.has(kind.key)) return { upto: index, handles: true };
  const later = steps.slice(index + 1).filter((s) => s.on !== false);
  const moving = later.some((s) => kinds.get(s.kind)?.geometric ?? true);
  return { upto: moving ? index + 1 : steps.length, handles: kind.handles.length > 0 };
}
