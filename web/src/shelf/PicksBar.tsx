import { Button } from "antd";
import type { ReactNode } from "react";
import "./PicksBar.css";

interface Props {
  /** What is selected: photos, pieces. */
  what: string;
  count: number;
  /** How many of the list are there to be selected. */
  there: number;
  onAll: () => void;
  onNone: () => void;
  children: ReactNode;
}

/** What can be done with several at once; there only while something is selected. */
export function PicksBar({ what, count, there, onAll, onNone, children }: Props) {
  if (!count) return null;
  return (
    <div className="picks-bar" role="toolbar" aria-label={`Selected ${what}`}>
      <strong role="status">
        {count} {count === 1 ? what.replace(/s$/, "") : what} selected
      </strong>
      {children}
      <span className="picks-end">
        {count < there && (
          <Button size="small" type="text" onClick={onAll}>
            Select all {there} shown
          </Button>
        )}
        <Button size="small" type="text" onClick={onNone}>
          Select none
        </Button>
      </span>
    </div>
  );
}
