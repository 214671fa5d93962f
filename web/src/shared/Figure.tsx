import { InputNumber, type InputNumberProps } from "antd";

/** A number to be typed. Its keys are its own; Enter is done, and the next key belongs to the page again. */
export function Figure(props: InputNumberProps<number>) {
  return (
    <InputNumber<number>
      size="small"
      controls={false}
      {...props}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Enter") (event.target as HTMLElement).blur();
      }}
    />
  );
}
