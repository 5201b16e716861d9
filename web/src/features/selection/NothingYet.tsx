import { Link } from "@tanstack/react-router";
import { useHere } from "@/session";
import { Empty } from "@/ui/Message";

const LINK = "underline underline-offset-4";

/** A programme that has not been out yet: where fish come from. */
export function NothingYet() {
  const { may } = useHere();
  return (
    <main className="p-6">
      <Empty>
        No fish yet. They come from the{" "}
        <Link to="/deck" className={LINK}>
          Deck
        </Link>
        , called as they are measured
        {may("import_rows") && (
          <>
            , or from{" "}
            <Link to="/records/files" className={LINK}>
              files of earlier years
            </Link>
          </>
        )}
        . What is needed before the first outing stands on{" "}
        <Link to="/" className={LINK}>
          Today
        </Link>
        .
      </Empty>
    </main>
  );
}
