import type { ReactNode } from "react";
import { HoldingCards, PlacingCard } from "@/features/deck";
import { BoardDrawing } from "./BoardDrawing";

/** What has to be known before the questions, in drawings and short sentences (common practice, no source). */
export function Lessons() {
  return (
    <div className="grid gap-5">
      <Lesson title="1. You, before any fish">
        <ul className="list-disc pl-5">
          <li>Life jacket closed, somebody ashore knows where you are and when you are back.</li>
          <li>Leave the water before the weather comes. No fish is worth a person.</li>
          <li>
            Needles that were in fish carry germs: cover them when not in use, dress a wound at once, see a doctor.
          </li>
          <li>
            You tag under the programme's permit, only the species and waters that it names. Local rules hold as well.
          </li>
        </ul>
      </Lesson>
      <Lesson title="2. Ready before the fish">
        <ul className="list-disc pl-5">
          <li>Tag loaded straight, its number read and noted, position taken, board wet, release side clear.</li>
          <li>
            Then the fish: out of the water as short as can be, well under a minute. Back into the water between steps.
          </li>
        </ul>
        <HoldingCards />
      </Lesson>
      <Lesson title="3. Is it fit, and is it new?">
        <ul className="list-disc pl-5">
          <li>
            Bleeding from the gills, hooked deep, cannot hold itself upright: release it without a tag and record that.
          </li>
          <li>
            Look for an old tag first. One that is there stays: read its number twice, record the fish as recaptured.
          </li>
          <li>Below the smallest length of the protocol no fish gets a tag.</li>
        </ul>
      </Lesson>
      <Lesson title="4. Measure">
        <BoardDrawing length_mm={462} number="" />
        <p>
          Mouth closed against the stop, tail laid together for total length. Read the mark under the tip of the tail,
          to the millimetre. Without a board write your estimate and mark it as estimated.
        </p>
      </Lesson>
      <Lesson title="5. Place the tag">
        <PlacingCard kind="tbar" />
        <p>Pull lightly: what comes out would have been lost anyway. Clean the needle as the protocol says.</p>
      </Lesson>
      <Lesson title="6. Release and record">
        <p>
          Hold it upright in the water until it swims off by itself; watch for half a minute and choose the condition.
          Finish the card before the next cast. A digit that you are not sure of belongs in the remarks.
        </p>
      </Lesson>
    </div>
  );
}

function Lesson({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="grid gap-2">
      <h2 className="text-lg font-semibold">{title}</h2>
      {children}
    </section>
  );
}
