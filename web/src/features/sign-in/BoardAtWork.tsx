import { useEffect, useState } from "react";
import { MeasuringBoard } from "@/features/deck";

/** Made-up walleye of three year-classes: (mean length, SD, fish), mm. */
const CLASSES = [
  [255, 16, 26],
  [345, 20, 22],
  [448, 32, 16],
] as const;
const STEP_MS = 1600;

/** Lengths in an order as they would be called: drawn once, the same for everybody. */
const LENGTHS = (() => {
  let state = 7;
  const random = () => {
    state = (state * 16807) % 2147483647;
    return state / 2147483647;
  };
  const drawn = CLASSES.flatMap(([mean, sd, n]) =>
    Array.from({ length: n }, () => {
      const normal = Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
      return { mm: Math.round(mean + sd * normal), order: random() };
    }),
  );
  return drawn.sort((a, b) => a.order - b.order).map(({ mm }) => mm);
})();

const SPECIES: Parameters<typeof MeasuringBoard>[0]["species"] = {
  code: "wal",
  name: "walleye",
  scientific_name: "Sander vitreus",
  length_type: "TL",
  // Gabelhouse (1984)
  categories: [
    { name: "stock", from_mm: 250 },
    { name: "quality", from_mm: 380 },
    { name: "preferred", from_mm: 510 },
  ],
  words: [],
  conversions: [],
  legal_mm: [null, null],
  legal_bag: null,
  smallest_to_tag_mm: null,
  longest_mm: null,
  lookalikes: [],
  special_interest: false,
  swim_bladder: "closed",
  line_is_own: false,
  usual_mm: [150, 600],
  bounds_mm: [30, 900],
  mass_table: { length_mm: [], far_low_g: [], low_g: [], high_g: [], far_high_g: [], standard_g: [], expected_g: [] },
  last_visit_mm: [],
  last_visit_groups: [],
};

/** The measuring board as it fills on an evening; it begins half full, and rests where no motion is wanted. */
export function BoardAtWork() {
  const [n, setN] = useState(LENGTHS.length / 2);
  useEffect(() => {
    if (matchMedia("(prefers-reduced-motion: reduce)").matches) return;
    const timer = setInterval(() => setN((now) => (now < LENGTHS.length ? now + 1 : LENGTHS.length / 2)), STEP_MS);
    return () => clearInterval(timer);
  }, []);
  const fish = LENGTHS.slice(0, n).map((mm, at) => ({
    id: String(at),
    species: "wal",
    length_mm: mm,
    length_basis: "measured",
  }));
  return (
    <figure aria-label="The measuring board at work, with made-up fish">
      <MeasuringBoard species={SPECIES} tagFrom={null} captures={fish} preview={null} doubted={false} />
      <figcaption className="px-4 text-sm text-muted">
        Call a fish, and it lies on the board: {LENGTHS[n - 1]} mm, made up like the {n - 1} before it.
      </figcaption>
    </figure>
  );
}
