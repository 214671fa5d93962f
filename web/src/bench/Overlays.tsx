import { useEffect, useRef } from "react";
import { useCatalogue } from "../shared/useCatalogue";
import { BlendSheet } from "./blends/BlendSheet";
import { FormulaBook } from "./book/FormulaBook";
import { focusPicture } from "./keys/picture";
import { AddLayer } from "./layers/AddLayer";
import { ExchangePhoto } from "./layers/ExchangePhoto";
import { entryOf, layerOf } from "./model/piece";
import { RollSheet } from "./roll/RollSheet";
import { useBenchPart, useDocument } from "./store";

/** What lies over the stage, where something does. */
export function Overlays() {
  const { overlay, selected, layer: id } = useBenchPart("overlay", "selected", "layer");
  const document = useDocument();
  const { byKey } = useCatalogue();
  const layer = layerOf(document, id);
  const lay = useRef(false);
  useEffect(() => {
    // What was pressed in it is gone, and the focus with it.
    if (lay.current && !overlay && window.document.activeElement === window.document.body) focusPicture();
    lay.current = overlay !== null;
  }, [overlay]);
  const step = layer.steps.find((one) => one.id === selected);
  const kind = step && byKey.get(step.kind);
  switch (overlay?.kind) {
    case "add-layer":
      return <AddLayer />;
    case "exchange":
      return <ExchangePhoto />;
    case "roll":
      return <RollSheet />;
    case "blends":
      return <BlendSheet sheet={step ? layer.id : (entryOf(document, id) ?? layer).id} step={step?.id ?? null} />;
    case "book":
      return step && kind?.role === "formula" ? <FormulaBook step={step} kind={kind} /> : null;
    default:
      return null;
  }
}
