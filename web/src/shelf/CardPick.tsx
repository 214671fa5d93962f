import { Checkbox } from "antd";

interface Props {
  name: string;
  picked: boolean;
  tab: 0 | -1;
  /** With `through` everything from the last one picked is meant. */
  onPick: (through: boolean) => void;
}

/** The corner of a card by which it is picked; with Shift, all up to it. */
export function CardPick({ name, picked, tab, onPick }: Props) {
  return (
    <Checkbox
      className="card-pick"
      checked={picked}
      tabIndex={tab}
      aria-label={`Select ${name}`}
      title="Select it; with Shift, all from the last one selected"
      onChange={({ nativeEvent }) => onPick((nativeEvent as MouseEvent).shiftKey)}
    />
  );
}
