import { Button } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import { layerOf } from "../model/piece";
import { overTheSeam, reachedOver } from "../model/seam";
import { LAYER } from "../model/view";
import { useBench } from "../store";
import { useRingBefore, useRingCentre } from "../useInForce";
import { useTold } from "../useTold";
import type { ToolProps } from "./kindTools";

const shown = (value: unknown): string => (typeof value === "number" ? value.toFixed(1) : "…");

/** How crushed the middle was and is. */
export function CentreTools() {
  const told = useTold();
  return (
    <p role="status" className="quiet small">
      Stripes round the middle <strong>{shown(told?.before)}</strong> → <strong>{shown(told?.after)}</strong>
    </p>
  );
}

/** What else can be done with the corners: let the ring grow over them, or lay something below. */
export function RimTools({ step }: ToolProps) {
  const document = useBench((state) => state.history.present.document);
  const layer = useBench((state) => state.layer);
  const { edit, patch } = useBench.getState();
  const ring = useRingBefore(layer, step.id);
  const reach = ring && reachedOver(ring.settings);
  return (
    <div className="row">
      {ring && reach && (
        <Button
          size="small"
          title="The ring grows to the farthest corner, so nothing is stretched there."
          onClick={() => edit({ type: "set", step: ring.id, settings: { reach } })}
        >
          Grow the ring to the corners
        </Button>
      )}
      {step.settings.into === "nothing" && (
        <Button
          size="small"
          onClick={() => patch({ layer: layerOf(document, layer).id, overlay: { kind: "add-layer" }, addSide: "below" })}
        >
          Add a layer below
        </Button>
      )}
    </div>
  );
}

/** One press: the same ring once more, turned a little, half transparent, to be lined up and painted in over the seam. */
export function SecondCopy() {
  const { history, layer, edit, patch } = useBench.getState();
  const centre = useRingCentre(layer);
  const kind = useCatalogue().byRole("twirls");
  return centre && kind ? (
    <Button
      size="small"
      title="A live copy of what is below, turned by six degrees and half transparent: line it up, then paint it in through its where."
      onClick={() => {
        const made = overTheSeam(history.present.document, centre, kind.key);
        if (edit({ type: "addEntry", entry: made, on: layer, side: "above" }))
          patch({ layer: made.id, selected: made.steps[0]?.id ?? LAYER, side: "step" });
      }}
    >
      Cover the seam with a turned copy
    </Button>
  ) : null;
}
