import { Button, Input } from "antd";
import { useState } from "react";
import { Formats } from "../bench/export/Formats";
import { MOST, USUAL } from "../bench/model/delivery";
import { Figure } from "../shared/Figure";
import { useStartRun } from "./useRuns";
import { useSharpness } from "./useSharpness";

interface Props {
  recipe: string;
  photos: string[];
  dials: Record<string, number>;
  slots: Record<string, string>;
}

/** Size, format and names of the files that a run makes. */
export function StartRun({ recipe, photos, dials, slots }: Props) {
  const [options, setOptions] = useState(USUAL);
  const [pattern, setPattern] = useState("{photo}-{recipe}");
  const start = useStartRun();
  const sharpness = useSharpness({ recipe, photos, dials, slots, size: options.size });
  const soft = photos.length > 0 && sharpness && sharpness.sharp !== null && sharpness.enlarged > 0 ? sharpness : null;
  return (
    <section aria-label="A run" className="start-run">
      <h3>Or export files</h3>
      <div className="setting trailing">
        <span className="name">Longer side, pixels</span>
        <Figure
          aria-label="Longer side of the files"
          min={16}
          max={MOST}
          value={options.size}
          onChange={(size) => size && setOptions({ ...options, size: Math.round(size) })}
        />
      </div>
      {soft && (
        <p className="quiet small" role="status">
          {soft.enlarged === photos.length
            ? photos.length === 1
              ? "This photo is enlarged at this size"
              : `All ${photos.length} photos are enlarged at this size`
            : `${soft.enlarged} of ${photos.length} photos are enlarged at this size`}
          , and come out softer. Up to {soft.sharp} pixels every file is sharp.{" "}
          <Button size="small" onClick={() => setOptions({ ...options, size: Math.max(16, soft.sharp ?? options.size) })}>
            Use {soft.sharp}
          </Button>
        </p>
      )}
      <Formats options={options} onChange={(part) => setOptions({ ...options, ...part })} />
      <div className="setting wide">
        <span className="name">File names</span>
        <Input aria-label="File names" size="small" maxLength={120} value={pattern} onChange={(event) => setPattern(event.target.value)} />
        <span className="quiet small">{"Use {photo}, {recipe} and {number}. {number:4} has four digits."}</span>
      </div>
      <Button
        size="large"
        block
        disabled={!photos.length}
        loading={start.isPending}
        onClick={() => start.mutate({ recipe, photos, dials, slots, options, pattern })}
      >
        {photos.length === 1 ? "Export 1 file" : `Export ${photos.length} files`}
      </Button>
    </section>
  );
}
