import { useMemo, useRef } from "react";
import { usePicture } from "../shared/usePicture";
import { type Placed, placedLayer } from "./model/geometry";
import { groundUnder } from "./model/moving";
import { type Layer, layerOf, type PieceDocument } from "./model/piece";
import { useBench, useRestedDocument } from "./store";
import "./MovedLayer.css";

const SIZE = 768;

interface Props {
  layer: Layer;
  /** Where the piece lies, and its ratio; and the layer's own. */
  piece: Placed;
  pieceRatio: number;
  ratio: number;
  document: PieceDocument;
  /** The document whose picture was shown last. */
  shownOf: PieceDocument;
}

/** A layer that is dragged over the piece, moved at once as a picture of its own until the true one is there. */
export function MovedLayer({ layer, piece, pieceRatio, ratio, document, shownOf }: Props) {
  const rested = useRestedDocument();
  const dragging = useBench((state) => state.dragging);
  const begun = useMemo(() => {
    const found = layerOf(rested, layer.id);
    const ground = found.id === layer.id ? groundUnder(rested, found) : null;
    return ground ? { ground } : null;
  }, [rested, layer.id]);
  const wanted = begun !== null && !dragging;
  const below = usePicture({ document: begun?.ground ?? rested, upto: null, size: SIZE, wanted });
  const alone = usePicture({ document: rested, upto: layer.steps.length, layer: layer.id, size: SIZE, wanted });
  const moves = useRef(false);
  if (dragging && document !== rested) moves.current = true;
  else if (shownOf === document) moves.current = false;
  if (!moves.current || !begun || !below.url || !alone.url) return null;
  const box = placedLayer(piece, pieceRatio, ratio, layer.source.fit === "contain", layer.place);
  const { left, top, width, height } = box;
  const turned = `rotate(${box.turn ?? 0}turn) scaleX(${box.flip ? -1 : 1})`;
  return (
    <div className="moved-picture" style={{ left: piece.left, top: piece.top, width: piece.width, height: piece.height }}>
      <img src={below.url} alt="" style={{ left: 0, top: 0, width: piece.width, height: piece.height }} />
      <img src={alone.url} alt="" style={{ left: left - piece.left, top: top - piece.top, width, height, transform: turned }} />
    </div>
  );
}
