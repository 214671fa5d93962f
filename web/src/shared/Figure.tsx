import { InputNumber, type InputNumberProps } from "antd";

/** A number to be typed. Enter is done, and the next key belongs to the page again. */
export function Figure(props: InputNumberProps<number>) {
  return (
    <InputNumber<number>
      size="small"
      controls={false}
      {...props}
      onKeyDown={(event) => event.key === "Enter" && (event.target as HTMLElement).blur()}
    />
  );
}
