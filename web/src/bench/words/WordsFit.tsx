import { useBench } from "../store";
import { useWordings } from "./useWordings";
import "./WordsOnPicture.css";

const joined = (names: string[]) => names.join(", ").replace(/, ([^,]*)$/, " and $1");

/** That the words of the layer run past the frame, and on which sides; with the way to make them fit, where there is one. */
export function WordsFit({ layer }: { layer: string }) {
  const edit = useBench((state) => state.edit);
  const found = useWordings().find((one) => one.layer === layer);
  if (!found?.past.length) return null;
  const { past, fitting } = found;
  const sides = past.filter((side) => side !== "circle");
  return (
    <div className="stage-note words-fit" role="status">
      {sides.length > 0 && `The text runs past the frame: ${joined(sides)}. `}
      {sides.length < past.length && "The text is longer than its circle. "}
      {fitting !== null && (
        <button type="button" className="bare link" onClick={() => edit({ type: "source", layer, settings: { size: fitting } })}>
          Make it fit
        </button>
      )}
    </div>
  );
}
