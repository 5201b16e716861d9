import { ApiError, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { ErrorMessage } from "@/ui/Message";
import { useMarking } from "./queries";

/** Takes a fish out of the record or puts it back; asks what is meant where later calls know it by a mark given here. */
export function TakeOut({ fish, reason }: { fish: Schemas["CaptureInPlace"]; reason: () => string }) {
  const marking = useMarking(fish.capture.id);
  const known = marking.error instanceof ApiError && marking.error.code === "mark_known_later" ? marking.error : null;
  const mark = (meant: Schemas["DeletedRequest"]["meant"] = "") =>
    marking.mutate({ deleted: !fish.deleted, reason: reason(), meant });
  return (
    <>
      <Button large disabled={marking.isPending} onClick={() => mark()}>
        {fish.deleted ? "Restore" : "Delete fish"}
      </Button>
      {marking.error && !known && (
        <div className="col-span-2">
          <ErrorMessage failure={marking.error} />
        </div>
      )}
      {known && (
        <div role="alert" className="col-span-2 border-l-4 border-signal pl-3">
          <p className="font-semibold text-signal">! {known.message.split(" Say what is meant")[0]} What is meant?</p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button large onClick={() => mark("fish_keeps_mark")}>
              The fish carries the tag; only this call is wrong
            </Button>
            <Button large onClick={() => mark("never_marked")}>
              It was never marked here
            </Button>
            <Button large onClick={() => marking.reset()}>
              Leave it in
            </Button>
          </div>
        </div>
      )}
    </>
  );
}
