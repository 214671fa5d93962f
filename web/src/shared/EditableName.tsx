import { Input } from "antd";
import { useState } from "react";

interface Props {
  value: string;
  label: string;
  onChange: (name: string) => void;
  className?: string;
}

/** A name that becomes a field when clicked; Enter keeps, Escape leaves it. An empty name is not taken. */
export function EditableName({ value, label, onChange, className = "" }: Props) {
  const [text, setText] = useState<string | null>(null);
  const keep = () => {
    const name = text?.trim();
    if (name && name !== value) onChange(name);
    setText(null);
  };
  if (text === null) {
    return (
      <button
        type="button"
        className={`bare clip ${className}`}
        title={value}
        aria-label={`${label}: ${value}. Rename`}
        onClick={() => setText(value)}
      >
        {value}
      </button>
    );
  }
  return (
    <Input
      autoFocus
      size="small"
      aria-label={label}
      maxLength={200}
      value={text}
      onChange={(event) => setText(event.target.value)}
      onBlur={keep}
      onPressEnter={keep}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") setText(null);
      }}
    />
  );
}
