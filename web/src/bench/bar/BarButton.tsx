import { Tooltip } from "antd";
import type { ButtonHTMLAttributes, Ref } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** Its name for readers; and what is told on hover, where that is more. */
  label: string;
  told?: string;
  ref?: Ref<HTMLButtonElement>;
}

/** A sign in the bar beside the picture, with its words on hover. */
export function BarButton({ label, told = label, children, ...rest }: Props) {
  return (
    <Tooltip title={told} placement="left" mouseEnterDelay={0.3}>
      <button type="button" className="bare bar-button" aria-label={label} data-roving={label} {...rest}>
        {children}
      </button>
    </Tooltip>
  );
}
