import { useState } from "react";
import { Button } from "@/ui/Button";
import { useSecondsSince } from "./use-clock";

interface Props {
  fight_s: number | null;
  onFight: (seconds: number | null) => void;
}

/** From hook-up to hand, by two touches; who has no hand free leaves it. */
export function FightClock({ fight_s, onFight }: Props) {
  const [hooked, setHooked] = useState<number | null>(null);
  const running = useSecondsSince(hooked);
  const inHand = () => {
    onFight(running);
    setHooked(null);
  };
  return (
    <div className="flex items-center gap-3 pt-2">
      {running === null ? (
        <Button large onClick={() => setHooked(Date.now())}>
          Fish on
        </Button>
      ) : (
        <Button large look="signal" onClick={inHand}>
          In hand
        </Button>
      )}
      <span className="tabular-nums" role="timer">
        {running !== null
          ? clockText(running)
          : fight_s !== null
            ? `Fight ${clockText(fight_s)}`
            : "Fight time, if you can"}
      </span>
    </div>
  );
}

const clockText = (seconds: number) => `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
