import { type InputNumberProps, Slider, type SliderSingleProps } from "antd";
import { type KeyboardEvent, useRef } from "react";
import { Figure } from "./Figure";
import "./SlidFigure.css";

interface Props {
  label: string;
  /** With whether a key did it. */
  onSlide: (value: number, keyed: boolean) => void;
  slide: Omit<SliderSingleProps, "tooltip" | "ariaLabelForHandle" | "onChange">;
  figure: InputNumberProps<number>;
}

/** A number that is slid or typed. By keys it is one stop: the slider; Enter goes to its figure, and from there back. */
export function SlidFigure({ label, onSlide, slide, figure }: Props) {
  const keyed = useRef(false);
  const onKeyDown = ({ key, target, currentTarget }: KeyboardEvent) => {
    if (key !== "Enter") return;
    const typed = target instanceof HTMLInputElement;
    const other = currentTarget.querySelector<HTMLElement>(typed ? "[role=slider]" : "input");
    other?.focus();
    if (other instanceof HTMLInputElement) other.select();
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys only pass it, from the slider and from the figure
    <span
      className="slid"
      onKeyDown={onKeyDown}
      onKeyDownCapture={() => {
        keyed.current = true;
      }}
      onPointerDownCapture={() => {
        keyed.current = false;
      }}
    >
      <Slider {...slide} onChange={(value) => onSlide(value, keyed.current)} tooltip={{ open: false }} ariaLabelForHandle={label} />
      <Figure {...figure} aria-label={`${label}, number`} tabIndex={-1} />
    </span>
  );
}
