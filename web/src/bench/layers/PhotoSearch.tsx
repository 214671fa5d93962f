import { Input } from "antd";

/** Photos looked for by their names; its keys are its own, but Escape. */
export function PhotoSearch({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  return (
    <Input
      autoFocus
      allowClear
      placeholder="A photo by its name"
      aria-label="Search photos"
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="finder-search"
    />
  );
}
