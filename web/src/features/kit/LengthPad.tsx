import { Button } from "@/ui/Button";

interface Props {
  unit: string;
  /** TL, FL and the like; empty before a species is chosen. */
  type: string;
  digits: string;
  onDigits: (digits: string) => void;
}

const DELETE = "⌫";
/** As on a telephone, with what is rarer beside it. */
const KEYS = ["1", "2", "3", DELETE, "4", "5", "6", ".", "7", "8", "9", "0"];
const MOST = 6;
const TYPES: Record<string, string> = {
  TL: "total length",
  FL: "fork length",
  EFL: "eye to fork",
  SL: "standard length",
};

/** A length by large keys: the phone's own keyboard is too small for wet thumbs. */
export function LengthPad({ unit, type, digits, onDigits }: Props) {
  const press = (key: string) => {
    if (key === DELETE) return onDigits(digits.slice(0, -1));
    if (digits.length >= MOST || (key === "." && (digits.includes(".") || !digits))) return;
    onDigits(digits + key);
  };
  return (
    <fieldset className="mt-3">
      <legend className="pb-1 font-semibold">
        Length ({unit}
        {type && `, ${TYPES[type] ?? type}`})
      </legend>
      <p aria-live="polite" className="min-h-12 border-b-3 border-ink text-3xl tabular-nums">
        {digits || <span className="text-muted">–</span>}
      </p>
      <div className="mt-2 grid grid-cols-4 gap-2">
        {KEYS.map((key) => (
          <Button
            key={key}
            large
            aria-label={key === DELETE ? "Delete last digit" : undefined}
            className="min-h-13 text-xl"
            onClick={() => press(key)}
          >
            {key}
          </Button>
        ))}
      </div>
    </fieldset>
  );
}
