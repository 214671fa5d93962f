import { clamp, type Point, polar, round, toStage, turnsOf } from "../model/geometry";
import { inForce } from "../model/melt";
import { effective, effectiveNumber } from "../model/settings";
import { useBench } from "../store";
import { CentreHandle } from "./CentreReachHandle";
import { Knob } from "./Knob";
import { Stroke } from "./parts";
import type { HandleProps } from "./types";

const MIDDLE: Point = { x: 0, y: 0 };
const ARM = 0.5;
const SNAP = 1 / 24;
const snapped = (turns: number, snap: boolean) => round(snap ? Math.round(turns / SNAP) * SNAP : turns);

/** An arrow the way a pixel sort runs, or the centre of its circles and rays. */
export function SortWayHandle(props: HandleProps) {
  const { kind, settings, placed, set, dragging } = props;
  if (effective(kind, settings, "along") !== "heading") return <CentreHandle {...props} />;
  const tip = polar(MIDDLE, effectiveNumber(kind, settings, "heading"), ARM);
  return (
    <g>
      <Stroke from={toStage(placed, { x: -tip.x, y: -tip.y })} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="Direction"
        look="coral"
        placed={placed}
        at={tip}
        onMove={({ to, snap, gesture }) => set({ heading: snapped(turnsOf(to), snap) }, gesture)}
        onReset={() => set({ heading: 0.5 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}

/** How many times its push a melt's arrow is drawn long, so that a hand can hold it. */
const MAGNIFIED = 30;
const FARTHEST = 0.2;

/** An arrow the way a melt flows, as long as thirty rounds of its push. */
export function MeltWayHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const playing = useBench((state) => state.playing);
  // While it runs the hand sets what holds from the round on that is seen, in the panel; the arrow shows it.
  const now = playing ? inForce(settings, effectiveNumber(kind, settings, "rounds")) : settings;
  const push = effectiveNumber(kind, now, "push");
  const tip = polar(MIDDLE, effectiveNumber(kind, now, "heading"), push * MAGNIFIED);
  return (
    <g>
      <Stroke from={toStage(placed, MIDDLE)} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="Flow"
        look="coral"
        placed={placed}
        at={tip}
        onMove={({ to, snap, gesture }) => {
          const far = clamp(Math.hypot(to.x, to.y) / MAGNIFIED, 0.0005, FARTHEST);
          set({ heading: snapped(turnsOf(to), snap), push: round(far, 5) }, gesture);
        }}
        onReset={() => set({ heading: 0.5, push: 0.008 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}

/** A line from the first ghost to the last. */
export function GhostHandle({ kind, settings, placed, set, dragging }: HandleProps) {
  const tip = polar(MIDDLE, effectiveNumber(kind, settings, "heading"), effectiveNumber(kind, settings, "apart"));
  return (
    <g>
      <Stroke from={toStage(placed, MIDDLE)} to={toStage(placed, tip)} colour="var(--coral)" />
      <Knob
        label="Apart and direction"
        look="coral"
        placed={placed}
        at={tip}
        onMove={({ to, snap, gesture }) =>
          set({ heading: snapped(turnsOf(to), snap), apart: round(clamp(Math.hypot(to.x, to.y), 0, 2)) }, gesture)
        }
        onReset={() => set({ heading: 0.25, apart: 0.08 }, "reset")}
        onDragging={dragging}
      />
    </g>
  );
}
