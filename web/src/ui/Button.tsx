import type { ButtonHTMLAttributes } from "react";

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** ink: the one thing to do here; signal: a person must act; plain: everything else. */
  look?: "plain" | "ink" | "signal";
  /** Touched with wet gloves: at least 44 px. */
  large?: boolean;
}

const LOOKS = {
  plain: "border-line bg-raised text-ink hover:border-ink",
  ink: "border-ink bg-ink text-on-ink hover:opacity-90",
  signal: "border-signal bg-raised text-signal font-semibold hover:bg-wash",
};

export function Button({ look = "plain", large = false, className = "", type = "button", ...rest }: Props) {
  const size = large ? "min-h-[44px] min-w-[44px] px-3 text-base" : "min-h-8 px-2.5";
  return (
    <button
      type={type}
      className={`inline-flex cursor-pointer touch-manipulation items-center justify-center gap-1.5 rounded-sm border whitespace-nowrap select-none disabled:cursor-default disabled:opacity-50 ${size} ${LOOKS[look]} ${className}`}
      {...rest}
    />
  );
}
