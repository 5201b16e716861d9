import { type FormEvent, useState } from "react";
import { useHere } from "@/session";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { ErrorMessage } from "@/ui/Message";
import { formatDay, money } from "@/ui/words/format";
import { usePayReward, type WholeReport } from "./queries";

/** What the report earned: promised as it is verified, then paid with a proof. */
export function RewardPart({ report }: { report: WholeReport }) {
  const { may } = useHere();
  const { reward, currency } = report;
  const pay = usePayReward(report.id);
  const [text, setText] = useState("");
  if (!reward) return null;
  const send = (event: FormEvent) => {
    event.preventDefault();
    pay.mutate(reward.paid_at ? { paid: false, reason: text } : { paid: true, proof: text }, {
      onSuccess: () => setText(""),
    });
  };
  return (
    <section aria-label="Reward" className="mt-3">
      <h3 className="font-semibold">Reward: {money(reward.amount, currency)}</h3>
      <p>
        {reward.paid_at
          ? `Paid on ${formatDay(reward.paid_at)}: ${reward.proof}.`
          : `Promised on ${formatDay(reward.promised_at)}, not paid yet.`}
      </p>
      {may("verify_returns") && (
        <form onSubmit={send} className="flex flex-wrap items-end gap-2 pt-1">
          <Field
            label={reward.paid_at ? "Why it was not paid after all" : "Proof: number of the transfer, or who signed"}
            maxLength={200}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <Button type="submit" disabled={pay.isPending || text.trim().length < 2}>
            {reward.paid_at ? "Take the payment back" : "Paid"}
          </Button>
        </form>
      )}
      {pay.error && <ErrorMessage failure={pay.error} />}
    </section>
  );
}
