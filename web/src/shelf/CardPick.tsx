import { Checkbox } from "antd";

interface Props {
  name: string;
  picked: boolean;
  /** With `through` everything from the last one picked is meant. */
  onPick: (through: boolean) => void;
}

/** The corner of a card by which it is picked; with Shift, all up to it. */
export function CardPick({ name, picked, onPick }: Props) {
  return (
    <Checkbox
      className="card-pick"
      checked={picked}
      aria-label={`Pick ${name}`}
      title="Pick it; with Shift, all from the last one picked"
      onChange={({ nativeEvent }) => onPick((nativeEvent as MouseEvent).shiftKey)}
    />
  );
}
