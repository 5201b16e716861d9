import type { ButtonHTMLAttributes } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** ink: the one thing to do here; signal: a person must act; plain: everything else. */
  look?: "plain" | "ink" | "signal";
  /** With larger words; every button is at least 44 px, for wet gloves. */
  large?: boolean;
}

const LOOKS = {
  plain: "border-line bg-raised text-ink hover:border-ink",
  ink: "border-ink bg-ink text-on-ink hover:opacity-90",
  signal: "border-signal bg-raised text-signal font-semibold hover:bg-wash",
};

export function Button({ look = "plain", large = false, className = "", type = "button", ...rest }: Props) {
  const size = large ? "px-3 text-base" : "px-2.5";
  return (
    <button
      type={type}
      className={`inline-flex cursor-pointer touch-manipulation items-center justify-center gap-1.5 rounded-sm border whitespace-nowrap select-none min-h-[44px] min-w-[44px] disabled:cursor-default disabled:opacity-50 ${size} ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
