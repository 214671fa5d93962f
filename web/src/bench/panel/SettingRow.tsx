import { memo } from "react";
import type { Setting } from "../../api/client";
import type { DrawnFor } from "../model/edits";
import type { Settings, SettingValue } from "../model/piece";
import type { Row } from "../model/rows";
import { effective, isChanged, type Settable, whyIdle } from "../model/settings";
import { PairControl } from "./controls/PairControl";
import { TableControl } from "./controls/TableControl";
import type { ControlProps } from "./controls/types";
import { isSpecial, SettingControl } from "./SettingControl";

interface Props {
  kind: Settable;
  row: Row;
  settings: Settings;
  onSet: (name: string, value: SettingValue, gesture?: string, drawnFor?: DrawnFor) => void;
  onDragging: (dragging: boolean) => void;
}

/** One row of a step's settings. While another is dragged it is not drawn again: a panel of a dozen takes longer than the draft of the picture. */
export const SettingRow = memo(function SettingRow({ kind, row, settings, onSet, onDragging }: Props) {
  const propsOf = (setting: Setting): ControlProps => ({
    kind,
    setting,
    settings,
    onChange: (value, gesture, drawnFor) => onSet(setting.name, value, gesture, drawnFor),
    onDragging,
  });
  if (row.form === "one") return <SettingControl {...propsOf(row.settings[0])} />;
  if (row.form === "table") return <TableControl row={row} of={(n) => propsOf(row.settings[n] as Setting)} />;
  return <PairControl label={row.label} names={row.names} pair={[propsOf(row.settings[0]), propsOf(row.settings[1])]} />;
}, looksAlike);

function looksAlike(a: Props, b: Props): boolean {
  if (a.kind !== b.kind || a.onSet !== b.onSet || a.onDragging !== b.onDragging) return false;
  const names = (row: Row) => row.settings.map((setting) => setting.name).join();
  if (names(a.row) !== names(b.row)) return false;
  if (a.settings === b.settings) return true;
  return a.row.settings.every((setting) => {
    const { name } = setting;
    // What is more than a number or a word may look at all settings.
    if (isSpecial(setting) || whyIdle(a.kind, a.settings, setting) !== whyIdle(b.kind, b.settings, setting)) return false;
    if (isChanged(setting, a.settings) !== isChanged(setting, b.settings)) return false;
    return a.settings[name] === b.settings[name] && effective(a.kind, a.settings, name) === effective(b.kind, b.settings, name);
  });
}
