import { Splitter } from "../shared/Splitter";
import { ExportPanel } from "./export/ExportPanel";
import { layerOf } from "./model/piece";
import { LAYER, SOURCE } from "./model/view";
import { LayerPanel } from "./panel/LayerPanel";
import { PiecePanel } from "./panel/PiecePanel";
import { SourcePanel } from "./panel/SourcePanel";
import { StepPanel } from "./panel/StepPanel";
import { PANEL, prefer, usePrefs } from "./prefs";
import { RecipesPanel } from "./recipes/RecipesPanel";
import { useBench, useBenchPart, useDocument } from "./store";
import { useSelectedStep } from "./useSelectedStep";
import { HistoryPanel } from "./versions/HistoryPanel";
import { VersionsPanel } from "./versions/VersionsPanel";

interface Props {
  pieceId: string;
  saveNow: () => Promise<boolean>;
}

/** What stands beside the picture: an export, versions, the history, or what is selected. */
export function BenchSide(props: Props) {
  const overlay = useBench((state) => state.overlay);
  const width = usePrefs((prefs) => prefs.panelWidth);
  return (
    <div className="bench-side" inert={overlay?.kind === "finder"}>
      <Splitter label="Width of the panel" lies="upright" value={width} {...PANEL} onChange={(panelWidth) => prefer({ panelWidth })} />
      <Side {...props} />
    </div>
  );
}

function Side({ pieceId, saveNow }: Props) {
  const { side, selected } = useBenchPart("side", "selected");
  if (side === "export") return <ExportPanel pieceId={pieceId} saveNow={saveNow} />;
  if (side === "versions") return <VersionsPanel pieceId={pieceId} saveNow={saveNow} />;
  if (side === "recipes") return <RecipesPanel />;
  if (side === "history") return <HistoryPanel />;
  if (selected === LAYER) return <LayerPanel />;
  if (selected === SOURCE) return <SourcePanel />;
  return <StepSide />;
}

/** The selected step, or the piece where none is. */
function StepSide() {
  const { step, kind, index, count, layer } = useSelectedStep();
  const document = useDocument();
  return step && kind ? (
    <StepPanel key={step.id} step={step} kind={kind} index={index} count={count} layer={layerOf(document, layer)} />
  ) : (
    <PiecePanel />
  );
}
