import { Button, Switch } from "antd";
import { useCatalogue } from "../../shared/useCatalogue";
import type { Place } from "../model/piece";
import { rowsOf } from "../model/rows";
import { useBench } from "../store";
import { SettingRow } from "./SettingRow";

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
      {rowsOf(settings).map((row) => (
        <SettingRow
          key={row.settings.map((one) => one.name).join()}
          kind={{ settings }}
          row={row}
          settings={place as never}
          onSet={(name, value, gesture) => onChange({ ...place, [name]: Number(value) }, gesture)}
          onDragging={(dragging) => patch({ dragging })}
        />
      ))}
      {!tiled && (
        <div className="setting trailing">
          <span>Flipped</span>
          {onReset && (
            <Button size="small" onClick={onReset}>
              Reset
            </Button>
          )}
          <Switch size="small" aria-label="Flipped" checked={place.flip} onChange={(flip) => onChange({ ...place, flip })} />
        </div>
      )}
    </div>
  );
}
