import { Alert, Button } from "antd";
import { allLayers, entryOf, layerOf } from "./model/piece";
import { LAYER } from "./model/view";
import { useBench, useBenchPart, useDocument } from "./store";
import { RegionNote } from "./where/RegionNote";
import { WordsFit } from "./words/WordsFit";

interface Props {
  fault: string | null;
  /** What of the piece is not there, in words. */
  missing: string[];
  /** Which stage of how many is shown, and where the selected step stands; null for the finished piece. */
  upto: number | null;
  count: number;
  before: number;
  label: string | undefined;
}

/** What is said in the corner of the stage: what went wrong, which stage is seen, that a layer is seen alone. */
export function StageNotes({ fault, missing, upto, count, before, label }: Props) {
  const document = useDocument();
  const { layer, wording, regionAt, solo, plate, tried, patch, undo } = useBenchPart(
    "layer",
    "wording",
    "regionAt",
    "solo",
    "plate",
    "tried",
    "patch",
    "undo",
  );
  const empty = allLayers(document).find((layer) => layer.source?.photo === null);
  const canUndo = useBench((state) => state.history.past.length > 0);
  return (
    <>
      {fault && (
        <div className="stage-note" role="alert">
          <span>{fault}</span>
          {canUndo && (
            <button type="button" className="bare link" onClick={undo}>
              Undo
            </button>
          )}
        </div>
      )}
      {!fault && missing.length > 0 && (
        <Alert
          className="stage-missing"
          type="warning"
          showIcon
          title={missing.join(" ")}
          action={
            empty && (
              <Button size="small" onClick={() => patch({ layer: empty.id, selected: LAYER, side: "step", overlay: { kind: "exchange" } })}>
                Choose a photo
              </Button>
            )
          }
        />
      )}
      <RegionNote />
      {!fault && tried && (
        <div className="stage-note" role="status">
          Trying: {tried.name}
        </div>
      )}
      {!fault && !tried && upto !== null && regionAt === null && (
        <div className="stage-note">
          <span>{noteFor(upto, count, before, label)}</span>
          <button type="button" className="bare link" onClick={() => patch({ selected: null })}>
            Show the whole piece
          </button>
        </div>
      )}
      {!fault && !tried && wording === null && <WordsFit layer={layerOf(document, layer).id} />}
      {plate && (
        <div className="stage-note">
          <span>Channel: {plate.of}</span>
          <button type="button" className="bare link" onClick={() => patch({ plate: null })}>
            Show all channels
          </button>
        </div>
      )}
      {solo && (
        <div className="stage-note">
          <span>
            Solo: {entryOf(document, solo)?.name || "one layer"} of {allLayers(document).length}
          </span>
          <button type="button" className="bare link" onClick={() => patch({ solo: null })}>
            Show all
          </button>
        </div>
      )}
    </>
  );
}

function noteFor(upto: number, count: number, index: number, label: string | undefined): string {
  if (upto === 0 && index < 0) return "The source of the layer";
  return label && upto === index ? `Before ${label.toLowerCase()}` : `After ${upto} of ${count} steps`;
}
