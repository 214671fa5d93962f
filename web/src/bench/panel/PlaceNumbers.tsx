import { Button, Switch } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import type { Place } from "../model/piece";
import { useBench } from "../store";
import { NumberControl } from "./controls/NumberControl";

interface Props {
  place: Place & { cell?: number };
  onChange: (place: Place & { cell?: number }, gesture?: string) => void;
  onReset: (() => void) | null;
  /** The photo is repeated: the numbers are those of one copy. */
  tiled?: boolean;
}

/** A layer's place in numbers, beside its handles on the picture. */
export function PlaceNumbers({ place, onChange, onReset, tiled = false }: Props) {
  const catalogue = useCatalogue();
  const settings = tiled ? catalogue.tile : catalogue.place;
  const patch = useBench((state) => state.patch);
  return (
    <div>
      {settings.map((setting) => (
        <NumberControl
          key={setting.name}
          kind={{ settings }}
          setting={setting}
          settings={place as never}
          onChange={(value, gesture) => onChange({ ...place, [setting.name]: Number(value) }, gesture)}
          onDragging={(dragging) => patch({ dragging })}
        />
      ))}
      {!tiled && (
        <div className="setting trailing">
          <span>Flipped</span>
          {onReset && (
            <Button size="small" onClick={onReset}>
              Put back
            </Button>
          )}
          <Switch size="small" aria-label="Flipped" checked={place.flip} onChange={(flip) => onChange({ ...place, flip })} />
        </div>
      )}
    </div>
  );
}
