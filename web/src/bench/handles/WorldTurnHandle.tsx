import { useRef } from "react";
import { useCatalogue } from "../../shared/useCatalogue";
import { type Placed, polar, round, toStage, turnsOf } from "../model/geometry";
import { layersBelow } from "../model/layers";
import { stepsOf } from "../model/piece";
import { effectiveNumber } from "../model/settings";
import { useStages } from "../stages/useStages";
import { useBench, useDocument, useRestedDocument } from "../store";
import { Knob } from "./Knob";
import { Round } from "./parts";

const OUT = 0.9;
const SNAP = 1 / 24;

/** Turns the ring in the layers below a figure, while the figure stays: a knob on a circle about the ring's middle. */
export function WorldTurnHandle({ layer, piece }: { layer: string; piece: Placed }) {
  const document = useRestedDocument();
  const { byKey } = useCatalogue();
  const stages = useStages(document).lately;
  const edit = useBench((state) => state.edit);
  const patch = useBench((state) => state.patch);
  const begun = useRef({ gesture: "", seam: 0, at: 0 });
  const behind = layersBelow(document, layer).find((one) => stages?.entries[one.id]?.ring);
  const now = useDocument();
  const ring = behind && stepsOf(now, behind.id).find((one) => one.id === stages?.entries[behind.id]?.ring);
  const kind = ring && byKey.get(ring.kind);
  if (!behind || !ring || !kind) return null;
  const { settings } = ring;
  const seam = effectiveNumber(kind, settings, "seam");
  const centre = { x: effectiveNumber(kind, settings, "x"), y: effectiveNumber(kind, settings, "y") };
  const at = polar(centre, seam + 0.125, OUT);
  const set = (next: number, gesture: string) =>
    edit({ type: "set", layer: behind.id, step: ring.id, settings: { seam: round(next - Math.floor(next), 5) }, gesture });
  return (
    <g>
      <Round
        centre={toStage(piece, centre)}
        radius={Math.hypot(toStage(piece, at).x - toStage(piece, centre).x, toStage(piece, at).y - toStage(piece, centre).y)}
        dash="2 8"
      />
      <Knob
        label="Turn the ring behind"
        placed={piece}
        at={at}
        onMove={({ to, snap, gesture }) => {
          if (begun.current.gesture !== gesture || gesture.startsWith("nudge")) begun.current = { gesture, seam, at: seam + 0.125 };
          const there = turnsOf({ x: to.x - centre.x, y: to.y - centre.y });
          const next = begun.current.seam + there - begun.current.at;
          set(snap ? Math.round(next / SNAP) * SNAP : next, `world-${gesture}`);
        }}
        onDragging={(now) => patch({ dragging: now })}
      />
    </g>
  );
}
