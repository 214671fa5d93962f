import { Button } from "antd";
import { memo } from "react";
import type { Kind } from "../../api/client";
import { defaults } from "../model/settings";
import { useBenchPart } from "../store";
import { PutOnShelf } from "./PutOnShelf";

interface Props {
  kind: Kind;
  step: string;
  isOn: boolean;
  isChanged: boolean;
  index: number;
  layer: string;
  layerName: string;
}

/** What can be done with a step as a whole. */
export const StepButtons = memo(function StepButtons({ kind, step, isOn, isChanged, index, layer, layerName }: Props) {
  const { edit, patch } = useBenchPart("edit", "patch");
  return (
    <div className="row panel-foot">
      <Button size="small" disabled={!isChanged} onClick={() => edit({ type: "set", step, settings: defaults(kind) })}>
        Reset all
      </Button>
      <Button size="small" onClick={() => edit({ type: "switch", step, on: !isOn })}>
        {isOn ? "Switch off" : "Switch on"}
      </Button>
      <Button
        size="small"
        onClick={() => {
          edit({ type: "remove", step });
          patch({ selected: null });
        }}
      >
        Remove
      </Button>
      <PutOnShelf layer={layer} upto={index + 1} name={`${layerName || "layer"} after ${kind.label.toLowerCase()}`} />
    </div>
  );
});
