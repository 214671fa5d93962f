import { ReadingOverlay } from "../shared/ReadingOverlay";
import type { Placed } from "./model/geometry";
import { useDocument } from "./store";
import { useReading } from "./useReading";
import "./PhotoReading.css";

/** The reading of the layer's photo, over it. */
export function PhotoReading({ layer, box }: { layer: string; box: Placed }) {
  const document = useDocument();
  const reading = useReading(document, 0, layer);
  return (
    reading && (
      <div
        className="over-picture"
        style={{ left: box.left, top: box.top, width: box.width, height: box.height, transform: `rotate(${box.turn ?? 0}turn)` }}
      >
        <ReadingOverlay reading={reading} />
      </div>
    )
  );
}
