import { Popover, Segmented, Switch } from "antd";
import { useBenchPart } from "../store";
import { PLATES, type Plate } from "../store/view";
import { BarButton } from "./BarButton";
import { PlatesSign } from "./icons";

const LABELS: Record<Plate["of"], string> = { red: "Red", green: "Green", blue: "Blue", light: "Light" };
/** What each plate weighs of red, green and blue. */
const WEIGHTS: Record<Plate["of"], [number, number, number]> = {
  red: [1, 0, 0],
  green: [0, 1, 0],
  blue: [0, 0, 1],
  light: [0.2126, 0.7152, 0.0722],
};
const ROWS = ["red", "green", "blue"] as const;

/** Which plate of the picture is seen: all, or one alone as grey or in its colour. */
export function Plates() {
  const { plate, patch } = useBenchPart("plate", "patch");
  const show = (next: Plate | null) => patch({ plate: next, ...(next ? { lastPlate: next } : {}) });
  return (
    <Popover
      trigger="click"
      placement="left"
      content={
        <fieldset className="plates" aria-label="Channels seen">
          <Segmented
            aria-label="Channel seen"
            value={plate?.of ?? "all"}
            options={[{ value: "all", label: "All" }, ...PLATES.map((of) => ({ value: of, label: LABELS[of] }))]}
            onChange={(next) => show(next === "all" ? null : { of: next as Plate["of"], coloured: plate?.coloured ?? false })}
          />
          <div className="setting trailing">
            <span>In its own colour</span>
            <Switch
              size="small"
              aria-label="In its own colour"
              disabled={!plate || plate.of === "light"}
              checked={plate?.coloured ?? false}
              onChange={(coloured) => plate && show({ ...plate, coloured })}
            />
          </div>
          <p className="quiet small">Key P shows the last channel, or all channels again. Light shows the picture in grey.</p>
        </fieldset>
      }
    >
      <BarButton
        label={plate ? `Channel: ${LABELS[plate.of].toLowerCase()}; change` : "See one channel"}
        told="See red, green, blue or light alone (key P)"
        aria-pressed={plate !== null}
      >
        <PlatesSign />
      </BarButton>
    </Popover>
  );
}

/** What the browser shows the pictures on the stage through, where one plate is seen alone. */
export function PlateFilter({ plate }: { plate: Plate | null }) {
  if (!plate) return null;
  const weights = WEIGHTS[plate.of].join(" ");
  const rows = ROWS.map((row) => (plate.coloured && plate.of !== "light" && row !== plate.of ? "0 0 0 0 0" : `${weights} 0 0`));
  return (
    <svg className="visually-hidden" aria-hidden="true">
      <filter id="plate" colorInterpolationFilters="sRGB">
        <feColorMatrix values={`${rows.join(" ")} 0 0 0 1 0`} />
      </filter>
    </svg>
  );
}
