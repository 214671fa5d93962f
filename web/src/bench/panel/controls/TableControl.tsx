import { Fragment } from "react";
import type { Row } from "../../model/rows";
import { Name } from "./Name";
import { NumberFigure } from "./NumberFigure";
import type { ControlProps } from "./types";
import { useNumber } from "./useNumber";
import "./TableControl.css";

function Cell(props: ControlProps) {
  const number = useNumber(props);
  return (
    <span className="cell">
      <Name {...props} scrub={number.scrub} short="↔" />
      <NumberFigure setting={props.setting} number={number} bare />
    </span>
  );
}

/** Many numbers of a kind as a small table: a line for each what, a column for each part. */
export function TableControl({ row, of }: { row: Extract<Row, { form: "table" }>; of: (n: number) => ControlProps }) {
  let at = 0;
  const index = new Map(row.settings.map((setting) => [setting.name, at++]));
  return (
    <div className="number-table" style={{ gridTemplateColumns: `auto repeat(${row.columns.length}, minmax(0, 1fr))` }}>
      <span />
      {row.columns.map((column) => (
        <strong key={column} className={`plate-${column.toLowerCase()}`}>
          {column}
        </strong>
      ))}
      {row.lines.map((line) => (
        <Fragment key={line.label}>
          <span className="name">{line.label}</span>
          {line.settings.map((setting) => (
            <Cell key={setting.name} {...of(index.get(setting.name) ?? 0)} />
          ))}
        </Fragment>
      ))}
    </div>
  );
}
